import type { InterfacePage, SearchResult } from '@yucca/contract';
import { asJsonLd, listOf, thingOf } from '../src/features/search-page/structured-data';

const page = {
  slug: 'nursery',
  title: 'Nursery',
  at: '/s/nursery',
  thing: 'Product',
  currency: 'GBP',
  geo: null,
  card: { title: 'name', picture: 'image', text: 'care', number: 'price', detail: null },
} as unknown as InterfacePage;
const result = (record: object, id = 'P-1'): SearchResult => ({ id, record, marks: {}, snippets: {} }) as SearchResult;
const rose = result({ name: 'Dog rose', image: '/files/rose.svg', care: 'In sun.', price: 9.5 });

test('a plant is a product with an offer', () => {
  expect(thingOf(rose, page, 'https://shop.example/s/nursery/r/P-1')).toEqual({
    '@type': 'Product',
    name: 'Dog rose',
    url: 'https://shop.example/s/nursery/r/P-1',
    image: 'https://shop.example/files/rose.svg',
    description: 'In sun.',
    offers: { '@type': 'Offer', price: 9.5, priceCurrency: 'GBP' },
  });
});

test('an article has a headline, a place has a position', () => {
  const article = thingOf(rose, { ...page, thing: 'Article', currency: null }, 'https://shop.example/');
  expect(article).toMatchObject({ '@type': 'Article', headline: 'Dog rose' });
  expect(article).not.toHaveProperty('offers');
  const garden = result({ name: 'Old garden', at: { point: { type: 'Point', coordinates: [-18.4, 47.3] } } });
  expect(thingOf(garden, { ...page, thing: 'LocalBusiness', geo: 'at.point' }, 'https://shop.example/')).toMatchObject({
    geo: { '@type': 'GeoCoordinates', latitude: 47.3, longitude: -18.4 },
  });
});

test('results are a list in their order, with the address of each', () => {
  const list = listOf([rose, result({ name: 'Fern' }, 'P/2 ?')], page, 'https://shop.example');
  expect(list).toMatchObject({
    '@type': 'SearchResultsPage',
    mainEntity: {
      numberOfItems: 2,
      itemListElement: [
        { position: 1 },
        { position: 2, item: { url: 'https://shop.example/s/nursery/r/P%2F2%20%3F' } },
      ],
    },
  });
});

test('a record cannot end the script it is written into', () => {
  const evil = thingOf(result({ name: '</script><script>alert(1)</script>' }), page, 'https://shop.example/');
  expect(asJsonLd(evil)).not.toContain('<');
  expect(JSON.parse(asJsonLd(evil))).toMatchObject({ name: '</script><script>alert(1)</script>' });
});
