/** `<yucca-search data="data/">`: the search page as one element, over files beside it and without a server. */
import type { OfflineManifest } from '@yucca/contract';
import { shownHit, type YuccaClient } from '@yucca/kit';
import { YuccaSearch } from '../../kit/src/drop-in/element.tsx';
import type { ShownRecord } from '../../kit/src/drop-in/page-element.tsx';
import { createOfflineClient, type OfflineClient } from './client.ts';
import { OfflineError } from './files.ts';

const HERE = (document.currentScript as HTMLScriptElement).src;

/** What browsers lack, by what it is needed for. */
const LACKS = [
  [typeof Worker === 'undefined', 'workers'],
  [typeof DecompressionStream === 'undefined', 'unpacking of files'],
  [location.protocol === 'file:', 'reading files of a folder: open this page through a web server'],
] as const;

/** What reads the folder that `data` names, once for all elements that name it. */
const clients = new Map<string, Promise<OfflineClient>>();

function clientOf(data: string): Promise<OfflineClient> {
  const base = new URL(data, document.baseURI).href;
  let client = clients.get(base);
  if (!client) {
    clients.set(base, (client = read(base)));
    client.catch(() => clients.delete(base));
  }
  return client;
}

async function read(base: string): Promise<OfflineClient> {
  const lacking = LACKS.find(([lacks]) => lacks);
  if (lacking) throw new OfflineError(`this browser has no ${lacking[1]}.`);
  const answer = await fetch(new URL('manifest.json', base)).catch(() => null);
  if (!answer?.ok) throw new OfflineError('its files are not where they should be.');
  const manifest = (await answer.json()) as OfflineManifest;
  if (manifest.format !== 1) throw new OfflineError('its files are of another version than this script.');
  return createOfflineClient(manifest, base, () => new Worker(new URL('yucca-engine.js', HERE)));
}

class OfflineSearch extends YuccaSearch {
  /** There is nobody to tell. */
  protected override tell(): Promise<void> {
    return Promise.resolve();
  }

  /** All records are shown by one file, which is told the collection too. */
  protected override recordHref(): (record: ShownRecord) => string {
    const page = this.getAttribute('records') ?? 'record.html';
    return ({ collection, id, link }) => link ?? `${page}?${new URLSearchParams({ collection, id })}`;
  }

  protected override client(): YuccaClient {
    const data = this.getAttribute('data') ?? 'data/';
    const then =
      <A extends unknown[], T>(of: (client: OfflineClient) => (...args: A) => Promise<T>) =>
      async (...args: A): Promise<T> =>
        of(await clientOf(data))(...args);
    return {
      search: then(({ search }) => search),
      multiSearch: then(({ multiSearch }) => multiSearch),
      facetValues: then(({ facetValues }) => facetValues),
      suggest: then(({ suggest }) => suggest),
      page: then(({ page }) => page),
    };
  }
}

/** `<yucca-record data="data/" interface="…">`: the record that `?id=` names, as a list of its fields. */
class OfflineRecord extends HTMLElement {
  connectedCallback(): void {
    this.textContent = '…';
    void this.#show().catch((error: Error) => (this.textContent = `The record could not be read: ${error.message}`));
  }

  async #show(): Promise<void> {
    const client = await clientOf(this.getAttribute('data') ?? 'data/');
    const page = await client.page(this.getAttribute('interface') ?? '');
    const asked = new URLSearchParams(location.search);
    const [id, collection] = [asked.get('id') ?? '', asked.get('collection') ?? page.collection];
    const card = page.autocomplete.find((section) => section.collection === collection)?.card ?? page.card;
    const record = await client.record(collection, id);
    if (record === null) throw new OfflineError(`there is none called “${id.slice(0, 80)}”.`);
    const { title, picture } = shownHit({ id, record, marks: {}, snippets: {} }, card, '.');
    document.title = title.text;
    const heading = element('h1', title.text);
    const list = element('dl');
    for (const [name, value] of Object.entries(record)) {
      if (value === null || value === '' || value === record[card.picture ?? '']) continue;
      const text = typeof value === 'object' ? texts(value).join(', ') : String(value);
      list.append(element('dt', name.replaceAll('_', ' ')), element('dd', text));
    }
    this.replaceChildren(heading, ...(picture ? [image(picture)] : []), list);
  }
}

const texts = (value: unknown): string[] =>
  value !== null && typeof value === 'object' ? Object.values(value).flatMap(texts) : [String(value)];

function element(name: string, text = ''): HTMLElement {
  const made = document.createElement(name);
  made.textContent = text;
  return made;
}

function image(src: string): HTMLImageElement {
  const made = new Image(400, 300);
  made.src = src;
  made.alt = '';
  return made;
}

customElements.define('yucca-search', OfflineSearch);
customElements.define('yucca-record', OfflineRecord);
