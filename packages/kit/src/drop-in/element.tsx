import type { ReactNode } from 'react';
import { addressMap, prefixed } from '../address-map.ts';
import { EMPTY_QUERY } from '../query.ts';
import { SearchView } from '../react/view/search-view.tsx';
import { OBSERVED, PageElement, SCRIPT_ADDRESS, STANDING, type Drawn } from './page-element.tsx';
import type { Insights } from '../insights.ts';
import type { insightsOf } from './insights.ts';
import { loadMore, moreLiesAt, needsMore } from './small/more.ts';

/**
 * `<yucca-search>`: a whole search page as one element, for any site and without a build step. Every part can be styled
 * from outside by its name: `yucca-search::part(card)`.
 *
 * Attributes: `server` (where Yucca is reached, default: where the script came from), `interface` (the slug of the
 * page, or the name of a collection), `key` (a search key), `records` (the address of a record's own page, with `{id}`
 * in it; default: the page Yucca hosts; empty: titles are no links), `address` (a name before the parameters that its
 * state is kept in, when a page has several searches; `none`: its state is not kept in the address of the page),
 * `filter` (CQL2-Text: only records that fulfil it are found and offered), `tags` (words that placements may ask for,
 * with commas between them), `near` (`48.2,16.4`: where the visitor is until another place is said; a third number:
 * metres around it), `insights` (`off`: the server is not told what visitors do). It speaks the language of the
 * document around it (`lang`), where its own page may be had in that.
 *
 * Events, which bubble: `yucca-follow` before a link to a record, an offer or a redirect is followed, with its `href`
 * (`preventDefault` leaves it to the site); `yucca-search` and `yucca-click`, see insights.ts.
 */
export class YuccaSearch extends PageElement {
  #insights: Insights | undefined;

  static observedAttributes = [...OBSERVED, 'address'];

  /** What few pages use, with its styles. */
  protected override more({ page, server }: Drawn): Promise<CSSStyleSheet> | null {
    void this.tell(server);
    moreLiesAt(beside(server, 'more'));
    return needsMore(page) || STANDING.some((name) => this.hasAttribute(name)) ? loadMore() : null;
  }

  /** What tells of visitors comes after the page: nobody waits for it. A site that refuses it is not counted. */
  protected async tell(server: string): Promise<void> {
    const script = (await import(beside(server, 'insights')).catch(() => null)) as Script | null;
    if (!script) return;
    const isOff = this.getAttribute('insights') === 'off';
    this.#insights = script.insightsOf(this, {
      base: server,
      key: this.getAttribute('key') ?? '',
      ...(isOff && { page: null }),
    });
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
        navigate={this.follow}
        picturesFrom={server}
        {...(this.#insights && { insights: this.#insights })}
      />
    );
  }
}

interface Script {
  insightsOf: typeof insightsOf;
}

/** The address of a script that lies beside this one. */
const beside = (server: string, name: string): string =>
  (SCRIPT_ADDRESS || `${server}/yucca-search.js`).replace(/\.js(?=$|\?)/, `-${name}.js`);
