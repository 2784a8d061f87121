import type { InterfacePage } from '@yucca/contract';
import type { ReactNode } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { createClient, type YuccaClient } from '../client.ts';
import { Recovery } from '../recovery.ts';
import styles from '../styles/drop-in.css';
import { asAttributesSay } from './as-attributes-say.ts';

/** The attributes that asAttributesSay reads. */
export const STANDING = ['filter', 'tags', 'near'];
export const OBSERVED = ['server', 'interface', 'key', 'records', ...STANDING];

/** How long a page is waited for before it is said, in milliseconds. */
const SLOW_MS = 400;

/** A record that a title leads to. */
export interface ShownRecord {
  collection: string;
  id: string;
  /** The address of its collection's page. */
  at: string;
  /** Where the design of the page leads to. */
  link?: string;
}

/** What an element is drawn from. */
export interface Drawn {
  page: InterfacePage;
  client: YuccaClient;
  /** Where Yucca is reached, without a slash at the end. */
  server: string;
  /** Another one with each page that was asked for: what is drawn of one goes on with its client. */
  key: number;
}

/**
 * An element that is drawn from what a server says of a page. It lives in a shadow tree, so the site's styles and its
 * own do not meet; colours and letters come in through custom properties, and every part can be styled from outside by
 * its name.
 */
export abstract class PageElement extends HTMLElement {
  readonly #tree = this.attachShadow({ mode: 'open' });
  #root: Root | null = null;
  #loading: AbortController | null = null;
  #drawn: Drawn | null = null;
  #times = 0;
  readonly #recovery = new Recovery(() => void this.#show());

  connectedCallback(): void {
    // No style element and no markup: both are refused on sites with a strict Content-Security-Policy.
    this.#tree.adoptedStyleSheets = [sheetOf(`:host { display: block; }\n${styles}`)];
    const page = document.createElement('div');
    page.setAttribute('part', 'page');
    this.#tree.replaceChildren(page);
    namePartsOf(page);
    this.#root = createRoot(page);
    void this.#show();
  }

  disconnectedCallback(): void {
    this.#loading?.abort();
    this.#recovery.stop();
    this.#root?.unmount();
    this.#root = null;
  }

  attributeChangedCallback(): void {
    if (this.#root) void this.#show();
  }

  /** What is asked. Elements that ask somebody else than a server have another one. */
  protected client(server: string): YuccaClient {
    return createClient({ base: server, key: this.getAttribute('key') ?? '' });
  }

  /** Fetches what the page needs before it is drawn; answers a style sheet. */
  protected more?(drawn: Drawn): Promise<CSSStyleSheet> | null;

  protected abstract draw(drawn: Drawn): ReactNode;

  /** Draws the same again, with what has come since. */
  protected redraw(): void {
    if (this.#drawn) this.#root?.render(this.draw(this.#drawn));
  }

  /** Goes to an address, unless the site goes there in its own way. */
  protected readonly follow = (href: string): void => {
    if (this.dispatchEvent(new CustomEvent('yucca-follow', { detail: { href }, bubbles: true, cancelable: true })))
      window.location.assign(href);
  };

  /** Where a record is shown: its own page, or where the attribute `records` says; undefined = nowhere. */
  protected recordHref(server: string): (record: ShownRecord) => string | undefined {
    const records = this.getAttribute('records');
    return (record) => {
      const id = encodeURIComponent(record.id);
      if (records === null) return record.link ?? `${server}${record.at}/r/${id}`;
      return records === '' ? undefined : records.replaceAll('{id}', id);
    };
  }

  /** Asks the server what the page is made of, and draws it. */
  async #show(): Promise<void> {
    this.#loading?.abort();
    const loading = new AbortController();
    this.#loading = loading;
    const server = (this.getAttribute('server') ?? SCRIPT_ORIGIN).replace(/\/$/, '');
    const client = this.client(server);
    const slow = setTimeout(() => this.#say('Searching …'), SLOW_MS);
    try {
      const page = await client.page(
        this.getAttribute('interface') ?? '',
        loading.signal,
        this.closest<HTMLElement>('[lang]')?.lang,
      );
      if (loading.signal.aborted) return;
      const drawn = { page, client, server, key: ++this.#times };
      const more = await this.more?.(drawn);
      if (loading.signal.aborted) return;
      if (more) this.#tree.adoptedStyleSheets = [this.#tree.adoptedStyleSheets[0]!, more];
      this.#recovery.stop();
      this.#drawn = { ...drawn, client: asAttributesSay(client, this, page.collection) };
      this.redraw();
    } catch (error) {
      if (loading.signal.aborted) return;
      this.#recovery.failed(error as Error);
      this.#say(`The search could not be reached: ${(error as Error).message}`, true);
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
}

function sheetOf(css: string): CSSStyleSheet {
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(css);
  return sheet;
}

/** Gives parts that are drawn into a tree the names they are styled by, for style sheets outside of it too. */
function namePartsOf(page: HTMLElement): void {
  new MutationObserver(() => {
    for (const part of page.querySelectorAll<HTMLElement>('[data-part]:not([part])'))
      part.setAttribute('part', part.dataset.part!);
  }).observe(page, { childList: true, subtree: true });
}

/** Where the script itself came from: most often that is where Yucca is. */
export const SCRIPT_ADDRESS =
  (typeof document === 'undefined' ? null : (document.currentScript as HTMLScriptElement | null))?.src ?? '';
const SCRIPT_ORIGIN = SCRIPT_ADDRESS && new URL(SCRIPT_ADDRESS).origin;
