import type { Card, InterfacePage, SearchResult } from '@yucca/contract';
import { cardFormatOf, pointAt, shownHit } from '@yucca/kit';

/** A schema.org document, as JSON-LD. */
type Thing = { '@type': string; [property: string]: unknown };

/** A record as a schema.org thing: what its card shows, and where it is. */
export function thingOf(
  result: SearchResult,
  page: Pick<InterfacePage, 'thing' | 'card' | 'currency' | 'formats' | 'geo'>,
  url: string,
): Thing {
  const card: Card = page.card;
  const { title, picture, text, number } = shownHit({ ...result, marks: {}, snippets: {} }, card);
  const format = cardFormatOf(page);
  const currency = typeof format === 'string' ? format : format?.currency;
  const point = page.geo === null ? null : pointAt(result.record, page.geo);
  const name = page.thing === 'Article' ? { headline: title.text } : { name: title.text };
  return {
    '@type': page.thing,
    ...name,
    url,
    // What a record calls a picture may be no address at all.
    ...(picture && URL.canParse(picture, url) && { image: new URL(picture, url).href }),
    ...(text && { description: text.text }),
    ...(number &&
      currency !== undefined &&
      page.thing === 'Product' && {
        offers: { '@type': 'Offer', price: number.value, priceCurrency: currency },
      }),
    ...(point && { geo: { '@type': 'GeoCoordinates', latitude: point.lat, longitude: point.lng } }),
  };
}

/** A page of results as a schema.org list. `base` is where the server is reached. */
export function listOf(results: readonly SearchResult[], page: InterfacePage, base: string): Thing {
  return {
    '@type': 'SearchResultsPage',
    name: page.title,
    mainEntity: {
      '@type': 'ItemList',
      numberOfItems: results.length,
      itemListElement: results.map((result, i) => ({
        '@type': 'ListItem',
        position: i + 1,
        item: thingOf(result, page, `${base}${page.at}/r/${encodeURIComponent(result.id)}`),
      })),
    },
  };
}

/** The text of a JSON-LD script. No `<` in it: a record may hold `</script>`. */
export const asJsonLd = (thing: Thing): string =>
  JSON.stringify({ '@context': 'https://schema.org', ...thing }).replaceAll('<', '\\u003c');
