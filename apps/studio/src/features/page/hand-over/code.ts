/** The script and the element that put a page on any site. */
export function elementCode(origin: string, slug: string): string {
  return `<script src="${origin}/yucca-search.js" defer></script>\n<yucca-search interface="${slug}" key="YOUR-SEARCH-KEY"></yucca-search>`;
}

/** The whole page as a component. */
export function reactCode(origin: string, slug: string): string {
  return `import '@yucca/kit/styles.css';
import { createClient } from '@yucca/kit';
import { SearchView } from '@yucca/kit/react';

const client = createClient({ base: '${origin}', key: 'YOUR-SEARCH-KEY' });
const page = await client.page('${slug}');

export function Search() {
  return <SearchView page={page} client={client} picturesFrom="${origin}" />;
}`;
}

/** The sources that a site's policy has to allow for the element. */
export function csp(origin: string): string {
  return ['script-src', 'connect-src', 'img-src'].map((directive) => `${directive} ${origin}`).join(';\n');
}
