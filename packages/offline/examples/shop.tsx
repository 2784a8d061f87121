/** The shop of the examples: a few plants and guides in memory, and what its parts share. */
import type { InterfacePage, RecordJson, SearchAnswer } from '@yucca/contract';
import { createMemory, EMPTY_QUERY, type Query, type StandingRequest } from '@yucca/kit';
import { useSearch, type Navigation } from '@yucca/kit/react';
import { createTestClient } from '@yucca/offline/testing';
import { useEffect, type ReactNode } from 'react';

type Row = [name: string, kind: string, colour: string, price: number, rating: number, safe: boolean, blooms: string];
const ROWS: readonly Row[] = [
  ['Lady fern', 'Indoor > Ferns', 'green', 9.5, 4.5, true, '2026-05-02'],
  ['Hart’s-tongue fern', 'Indoor > Ferns', 'green', 11, 4.1, true, '2026-05-20'],
  ['Maidenhair fern', 'Indoor > Ferns', 'green', 14.9, 3.4, true, '2026-06-01'],
  ['Snake plant', 'Indoor > Succulents', 'green', 19.9, 4.8, false, '2026-07-15'],
  ['Century plant', 'Indoor > Succulents', 'blue', 24, 3.9, false, '2026-08-01'],
  ['Aloe', 'Indoor > Succulents', 'green', 8.9, 4.6, false, '2026-03-18'],
  ['Dog rose', 'Outdoor > Roses', 'pink', 17.5, 4.2, true, '2026-06-12'],
  ['Damask rose', 'Outdoor > Roses', 'pink', 29, 4.9, true, '2026-06-20'],
  ['Musk rose', 'Outdoor > Roses', 'white', 26, 3.7, true, '2026-07-02'],
  ['Lavender', 'Outdoor > Herbs', 'violet', 6.9, 4.7, true, '2026-07-10'],
  ['French lavender', 'Outdoor > Herbs', 'violet', 7.9, 4.3, true, '2026-06-25'],
  ['Corn mint', 'Outdoor > Herbs', 'green', 4.5, 4.0, true, '2026-08-14'],
  ['Wild thyme', 'Outdoor > Herbs', 'violet', 5.2, 4.4, true, '2026-07-04'],
  ['Red maple', 'Outdoor > Trees', 'red', 79, 4.6, true, '2026-04-11'],
  ['Paper birch', 'Outdoor > Trees', 'white', 64, 4.1, true, '2026-04-02'],
  ['Rowan', 'Outdoor > Trees', 'red', 49, 3.2, true, '2026-05-14'],
];

/** A drawing of a leaf, so that nothing has to be fetched. */
const pictureOf = (colour: string): string =>
  `data:image/svg+xml,${encodeURIComponent(
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30"><rect width="40" height="30" fill="#f1ece0"/><path d="M20 4c9 6 9 16 0 22-9-6-9-16 0-22Z" fill="${colour}" opacity=".6"/></svg>`,
  )}`;

const plants: RecordJson[] = ROWS.map(([name, category, colour, price, rating, pet_safe, blooms], i) => ({
  id: `P-${String(i + 1).padStart(2, '0')}`,
  ...{ name, category, colour, price, rating, pet_safe, blooms },
  picture: pictureOf(colour),
  text: `${name}: one of our ${category.split(' > ')[1]!.toLowerCase()}.`,
  at: { type: 'Point', coordinates: [7.4 + (i % 4) * 0.12, 46.9 + Math.floor(i / 4) * 0.07] },
}));
const guides: RecordJson[] = ['How to water ferns', 'Pruning roses in March', 'Lavender in pots'].map((title, i) => ({
  id: `G-${i + 1}`,
  title,
}));

/** Answers like a server, from the records above. */
export const client = createTestClient({
  plants: {
    records: plants,
    tuning: {
      search: [{ field: 'name', weight: 5 }, { field: 'category' }],
      facets: [
        { name: 'category', field: 'category', label: 'Category', kind: 'tree', separator: ' > ' },
        { name: 'colour', field: 'colour', label: 'Colour' },
        { name: 'price', field: 'price', label: 'Price', kind: 'numbers' },
        { name: 'rating', field: 'rating', label: 'Rating', kind: 'numbers' },
        { name: 'blooms', field: 'blooms', label: 'Blooms', kind: 'dates' },
        { name: 'pet_safe', field: 'pet_safe', label: 'Safe for pets' },
      ],
      sorts: [{ name: 'price', label: 'Cheapest first', by: [{ field: 'price', order: 'asc' }] }],
      geo: 'at',
    },
  },
  guides: { records: guides, tuning: { search: [{ field: 'title' }] } },
});

/** What is kept of a visitor: in memory here, so that the examples leave nothing behind. */
export const memory = createMemory('examples', null);

/** The page that the examples are parts of. */
export const page: InterfacePage = {
  slug: 'nursery',
  title: 'Our nursery',
  collection: 'plants',
  all: plants.length,
  layout: 'cards',
  card: { title: 'name', picture: 'picture', text: 'text', number: 'price', detail: 'category' },
  facets: [
    { name: 'category', kind: 'tree', label: 'Category' },
    { name: 'colour', kind: 'values', label: 'Colour' },
  ],
  sorts: [{ name: 'price', label: 'Cheapest first' }],
  pageSize: 4,
  paging: 'pages',
  currency: 'CHF',
  thing: 'Product',
  autocomplete: [],
  places: [
    { name: 'Bern', lat: 46.948, lng: 7.447 },
    { name: 'Thun', lat: 46.758, lng: 7.628 },
  ],
  geo: 'at',
  at: '#',
};

/** A search of the plants as a page keeps it, with what its parts are given. */
export interface Shop extends Navigation {
  query: Query;
  answer: SearchAnswer;
}

/** Asks for the plants, and draws with the answer. */
export function WithShop({
  start = {},
  request = {},
  children,
}: {
  start?: Partial<Query>;
  request?: StandingRequest;
  children: (shop: Shop) => ReactNode;
}): ReactNode {
  const [{ query, answer }, search] = useSearch(() => ({
    client,
    collection: 'plants',
    request: { facets: ['*'], size: 4, ...request },
    query: { ...EMPTY_QUERY, ...start },
  }));
  useEffect(() => {
    void search.refresh();
  }, [search]);
  return answer && children({ query, answer, hrefOf: () => '#', go: (to) => search.ask(to) });
}
