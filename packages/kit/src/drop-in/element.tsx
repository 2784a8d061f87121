import type { ReactNode } from 'react';
import { addressMap, prefixed } from '../address-map.ts';
import { EMPTY_QUERY } from '../query.ts';
import { SearchView } from '../react/view/search-view.tsx';
import { PageElement, SCRIPT_ADDRESS, type Drawn } from './page-element.tsx';
import type { createInsights, Insights } from '../insights.ts';
import { loadMore, moreLiesAt, needsMore } from './small/more.ts';

/**
 * `<yucca-search>`: a whole search page as one element, for any site and without a build step. Every part can be styled
 * from outside by its name: `yucca-search::part(card)`.
 *
 * Attributes: `server` (where Yucca is reached, default: where the script came from), `interface` (the slug of the
 * page, or the name of a collection), `key` (a search key), `records` (the address of a record's own page, with `{id}`
 * in it; default: the page Yucca hosts; empty: titles are no links), `address` (a name before the
 * parameters that its state is kept in, when a page has several searches; `none`: its state is not kept in the address
 * of the page), `filter` (CQL2-Text: only
 * records that fulfil it are found and offered), `tags` (words that placements may ask for, with commas between them),
 * `insights` (`off`: nobody is told what visitors do). It speaks the language of the document around it
 * (`lang`), where its own page may be had in that.
 */
export class YuccaSearch extends PageElement {
  #insights: Insights | undefined;

  static observedAttributes = ['server', 'interface', 'key', 'records', 'address', 'filter', 'tags'];

  /** What few pages use, with its styles. */
  protected override more({ page, server }: Drawn): Promise<CSSStyleSheet> | null {
    if (this.getAttribute('insights') !== 'off') void this.#tell(server);
    moreLiesAt(beside(server, 'more'));
    return needsMore(page) || this.matches('[filter],[tags]') ? loadMore() : null;
  }

  /** What tells of visitors comes after the page: nobody waits for it. A site that refuses it is not counted. */
  async #tell(server: string): Promise<void> {
    const script = (await import(beside(server, 'insights')).catch(() => null)) as Script | null;
    if (!script) return;
    this.#insights = script.createInsights({ base: server, key: this.getAttribute('key') ?? '' });
    this.redraw();
  }

  protected override draw({ page, client, server, key }: Drawn): ReactNode {
    const map = addressMap(page.facets);
    const name = this.getAttribute('address');
    const address = name === 'none' ? name : name ? { prefix: name } : undefined;
    const { query } = (typeof address === 'object' ? prefixed(map, address.prefix) : map).read(window.location);
    return (
      <SearchView
        key={key}
        page={page}
        client={client}
        query={address === 'none' ? EMPTY_QUERY : query}
        {...(address && { address })}
        here={window.location.pathname}
        map={map}
        recordHref={this.recordHref(server)}
        picturesFrom={server}
        {...(this.#insights && { insights: this.#insights })}
      />
    );
  }
}

interface Script {
  createInsights: typeof createInsights;
}

/** The address of a script that lies beside this one. */
const beside = (server: string, name: string): string =>
  (SCRIPT_ADDRESS || `${server}/yucca-search.js`).replace(/\.js(?=$|\?)/, `-${name}.js`);
