import type { ReactNode } from 'react';
import { addressMap, prefixed } from '../address-map.ts';
import { EMPTY_QUERY } from '../query.ts';
import { SearchView } from '../react/view/search-view.tsx';
import { PageElement, SCRIPT_ADDRESS, type Drawn } from './page-element.tsx';
import { loadMore, needsMore } from './small/more.ts';

/**
 * `<yucca-search>`: a whole search page as one element, for any site and without a build step. Every part can be styled
 * from outside by its name: `yucca-search::part(card)`.
 *
 * Attributes: `server` (where Yucca is reached, default: where the script came from), `interface` (the slug of the
 * page, or the name of a collection), `key` (a search key), `records` (the address of a record's own page, with `{id}`
 * in it; default: the page Yucca hosts; empty: titles are no links), `address` (a name before the
 * parameters that its state is kept in, when a page has several searches; `none`: its state is not kept in the address
 * of the page).
 */
export class YuccaSearch extends PageElement {
  static observedAttributes = ['server', 'interface', 'key', 'records', 'address'];

  /** What few pages use, with its styles. */
  protected override more({ page, server }: Drawn): Promise<string> | null {
    if (!needsMore(page)) return null;
    return loadMore(`${SCRIPT_ADDRESS || `${server}/yucca-search.js`}`.replace(/\.js(?=$|\?)/, '-more.js'));
  }

  protected override draw({ page, client, server }: Drawn): ReactNode {
    const map = addressMap(page.facets);
    const name = this.getAttribute('address');
    const address = name === 'none' ? name : name ? { prefix: name } : undefined;
    const { query } = (typeof address === 'object' ? prefixed(map, address.prefix) : map).read(window.location);
    return (
      <SearchView
        key={`${server}/${page.slug}/${name}`}
        page={page}
        client={client}
        query={address === 'none' ? EMPTY_QUERY : query}
        {...(address && { address })}
        here={window.location.pathname}
        map={map}
        recordHref={this.recordHref(server)}
        picturesFrom={server}
      />
    );
  }
}
