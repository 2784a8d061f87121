import type { InterfacePage } from '@yucca/contract';
import { createRoot, type Root } from 'react-dom/client';
import { addressMap } from '../address-map.ts';
import { createClient, type YuccaClient } from '../client.ts';
import { SearchView } from '../react/view/search-view.tsx';
import styles from '../styles/search.css';

/** How long a page is waited for before it is said, in milliseconds. */
const SLOW_MS = 400;

/**
 * `<yucca-search>`: a whole search page as one element, for any site and without a build step. It lives in a shadow tree,
 * so the site's styles and its own do not meet; colours and letters come in through custom properties, and every part can
 * be styled from outside by its name: `yucca-search::part(card)`.
 *
 * Attributes: `server` (where Yucca is reached, default: where the script came from), `interface` (the slug of the page,
 * or the name of a collection), `key` (a search key), `records` (the address of a record's own page, with `{id}` in it;
 * default: the page Yucca hosts; empty: titles are no links). Its state is kept in the address of the site's page.
 */
export class YuccaSearch extends HTMLElement {
  static observedAttributes = ['server', 'interface', 'key', 'records'];

  #root: Root | null = null;
  #loading: AbortController | null = null;

  connectedCallback(): void {
    const tree = this.shadowRoot ?? this.attachShadow({ mode: 'open' });
    tree.innerHTML = '';
    const sheet = document.createElement('style');
    sheet.textContent = `:host { display: block; }\n${styles}`;
    const page = document.createElement('div');
    page.setAttribute('part', 'page');
    tree.append(sheet, page);
    namePartsOf(page);
    this.#root = createRoot(page);
    void this.#show();
  }

  disconnectedCallback(): void {
    this.#loading?.abort();
    this.#root?.unmount();
    this.#root = null;
  }

  attributeChangedCallback(): void {
    if (this.#root) void this.#show();
  }

  /** Asks the server what the page is made of, and draws it. */
  async #show(): Promise<void> {
    this.#loading?.abort();
    const loading = new AbortController();
    this.#loading = loading;
    const server = (this.getAttribute('server') ?? SCRIPT_ORIGIN).replace(/\/$/, '');
    const slug = this.getAttribute('interface') ?? '';
    const client = createClient({ base: server, key: this.getAttribute('key') ?? '' });
    const slow = setTimeout(() => this.#say('Searching …'), SLOW_MS);
    try {
      const page = await client.page(slug, loading.signal);
      if (!loading.signal.aborted) this.#draw(page, client, server);
    } catch (error) {
      if (!loading.signal.aborted) this.#say(`The search could not be reached: ${(error as Error).message}`, true);
    } finally {
      clearTimeout(slow);
    }
  }

  #say(text: string, failed = false): void {
    this.#root?.render(
      <div data-yucca="">
        <p role="status">{text}</p>
        {failed && (
          <button type="button" data-part="button" onClick={() => void this.#show()}>
            Try again
          </button>
        )}
      </div>,
    );
  }

  #draw(page: InterfacePage, client: YuccaClient, server: string): void {
    const records = this.getAttribute('records');
    const map = addressMap(page.facets);
    const { query } = map.read(window.location);
    const recordHref = (record: { id: string; at: string }): string | undefined => {
      const id = encodeURIComponent(record.id);
      if (records === null) return `${server}${record.at}/r/${id}`;
      return records === '' ? undefined : records.replaceAll('{id}', id);
    };
    this.#root?.render(
      <SearchView
        key={`${server}/${page.slug}`}
        page={page}
        client={client}
        query={query}
        here={window.location.pathname}
        map={map}
        recordHref={recordHref}
        picturesFrom={server}
      />,
    );
  }
}

/** Gives parts that are drawn into a tree the names they are styled by, for style sheets outside of it too. */
function namePartsOf(page: HTMLElement): void {
  new MutationObserver(() => {
    for (const part of page.querySelectorAll<HTMLElement>('[data-part]:not([part])'))
      part.setAttribute('part', part.dataset.part!);
  }).observe(page, { childList: true, subtree: true });
}

/** Where the script itself came from: most often that is where Yucca is. */
const SCRIPT_ORIGIN = (() => {
  const source = typeof document === 'undefined' ? null : (document.currentScript as HTMLScriptElement | null)?.src;
  return source ? new URL(source).origin : '';
})();
