import { createHash } from 'node:crypto';
import type { OfflineCollection, OfflineManifest } from '@yucca/contract';
import { asHtml, asMarkdown } from '../escape';
import { documentFile, headerOf } from '../written/document';
import { logoOf } from '../written/facts';
import { policyOf } from '../written/policy';
import { frameStyles } from '../written/styles';
import type { Files, TakenAway, Target } from './target';

/** A folder that needs no server: the page, the engine as a thread of it, and the collections as files. */
export const staticFolder: Target = async (what) => {
  const { page } = what;
  const packs = await what.pack();
  const data: Files = {};
  const collections: Record<string, OfflineCollection> = {};
  for (const [name, { tuning, packed }] of Object.entries(packs)) {
    const put = (content: Uint8Array, kind: string): string => {
      // Named by what they hold, so that a browser never mixes old and new.
      const file = `${kind}-${hashOf(content)}.gz`;
      data[`data/${file}`] = content;
      return file;
    };
    const index = put(packed.index, 'index');
    const parts = packed.parts.map((part) => put(part, 'records'));
    const bytes = packed.parts.reduce((sum, part) => sum + part.length, 0);
    collections[name] = {
      ...{ tuning, index, parts, records: packed.records, firstDocs: packed.firstDocs },
      ...{ indexBytes: packed.index.length, partsBytes: bytes },
    };
    for (const [path, picture] of packed.pictures) data[`files/${path}`] = picture;
  }
  const { packed: main, request } = packs[page.collection]!;
  const manifest: OfflineManifest = {
    format: 1,
    // Other collections have no page in the folder.
    pages: {
      [page.slug]: { ...page, ...(page.shelves && { shelves: page.shelves.map((shelf) => ({ ...shelf, at: '' })) }) },
    },
    collections,
    first: { collection: page.collection, request: request!, answer: { ...main.first!, queryId: '', timing: NO_TIME } },
  };
  const scripts = what.offlineScripts();
  const [logo, logoFile] = [what.logo(), logoOf(page, '')?.src ?? ''];
  const core: Files = {
    'index.html': documentOf(
      what,
      `<yucca-search data="data/" interface="${asHtml(page.slug)}" records="record.html"></yucca-search>`,
    ),
    'record.html': documentOf(
      what,
      `<yucca-record data="data/" interface="${asHtml(page.slug)}"></yucca-record>\n      <p><a href="./">Search ${asHtml(page.title)}</a></p>`,
    ),
    'theme.css': frameStyles(page) + RECORD_STYLES,
    'offline.js': OFFLINE,
    'data/manifest.json': JSON.stringify(manifest),
    ...scripts,
    ...(logo && { [logoFile]: logo }),
  };
  const indexes = Object.values(collections).map(({ index }) => `data/${index}`);
  const kept = ['./', ...Object.keys(core), ...indexes];
  const later = Object.keys(data).filter((file) => !kept.includes(file));
  const version = hashOf(
    Buffer.from(
      JSON.stringify([core, Object.keys(data)], (_, value: unknown) =>
        value instanceof Uint8Array ? hashOf(value) : value,
      ),
    ),
  );
  const left = Object.values(packs).reduce((sum, { packed }) => sum + packed.picturesLeft, 0);
  return {
    ...core,
    ...data,
    'sw.js': serviceWorker(page.slug, version, kept, later),
    'README.md': readmeOf(what, { collections, left }),
  };
};

const NO_TIME = { engineMs: 0, totalMs: 0 };

const hashOf = (content: Uint8Array): string => createHash('sha256').update(content).digest('hex').slice(0, 16);

const documentOf = (what: TakenAway, inside: string): string =>
  documentFile(
    what,
    // The first results are in the manifest: on a slow line it does not wait until the script is there.
    `<link rel="preload" href="data/manifest.json" as="fetch" crossorigin />
    <link rel="stylesheet" href="theme.css" />
    <script src="yucca-search.js" defer></script>
    <script src="offline.js" defer></script>`,
    `${headerOf(what, 'p class="name"', '', '')}
    <main>
      ${inside}
      <noscript><p>This search needs JavaScript: there is no server behind it.</p></noscript>
    </main>`,
  );

const RECORD_STYLES = `.name {
  margin: 0;
  font: 600 20px/28px var(--yucca-font-head, var(--yucca-font, system-ui, sans-serif));
}
dl {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: 4px 24px;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
`;

const OFFLINE = `// Keeps the page for times without a line, where the browser has room for it and allows it.
if ('serviceWorker' in navigator) {
  addEventListener('load', () => {
    navigator.serviceWorker
      .register('sw.js')
      .then(() => navigator.serviceWorker.ready)
      // Records and pictures follow when the page has what it needs.
      .then(({ active }) => setTimeout(() => active?.postMessage('keep all'), 3000))
      // A private window, or no room: the page works all the same, with a line.
      .catch(() => {});
  });
}
`;

/** Keeps the folder for times without a line. With a line, a folder that was put in its place is seen at once. */
const serviceWorker = (
  slug: string,
  version: string,
  kept: readonly string[],
  later: readonly string[],
): string => `// Made with the folder: files of another folder are other ones here.
const CACHE = ${JSON.stringify(`yucca/${slug}/${version}`)};
const MINE = ${JSON.stringify(`yucca/${slug}/`)};
const KEPT = ${JSON.stringify(kept)};
const LATER = ${JSON.stringify(later)};

// It waits until no page is under an older one: a worker that is replaced while it answers can leave its page waiting
// for ever. Nobody misses anything meanwhile: with a line, the older one too brings whatever is newest.
self.addEventListener('install', (event) => {
  event.waitUntil(caches.open(CACHE).then((cache) => cache.addAll(KEPT)));
});

self.addEventListener('activate', (event) => {
  const old = (name) => name.startsWith(MINE) && name !== CACHE;
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(names.filter(old).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  );
});

self.addEventListener('fetch', (event) => {
  const { request } = event;
  if (request.method !== 'GET' || !request.url.startsWith(self.registration.scope)) return;
  event.respondWith(answer(request, event));
});

/** Files whose names say what is in them never change; of the others the newest is wanted, and the kept one will do. */
const isFixed = ({ url }) => /\\/(data\\/[^/]+\\.gz|files\\/.+)$/.test(new URL(url).pathname);

async function answer(request, event) {
  const cache = await caches.open(CACHE);
  // What a page is asked for stands in its address: the page is the same.
  const kept = await cache.match(request, { ignoreSearch: true });
  if (kept && isFixed(request)) return kept;
  const fresh = await fetch(request).catch((error) => {
    if (kept) return kept;
    throw error;
  });
  if (kept && !fresh.ok) return kept;
  // The page does not wait until a disk has it.
  if (fresh.ok && isFixed(request)) event.waitUntil(keep(cache, request, fresh.clone()));
  return fresh;
}

/** A full disk keeps nothing, and breaks nothing. */
const keep = (cache, request, response) => cache.put(request, response).catch(() => {});

let keeping = null;
self.addEventListener('message', (event) => {
  if (event.data === 'keep all') event.waitUntil((keeping ??= keepAll()));
});

async function keepAll() {
  const cache = await caches.open(CACHE);
  for (const path of LATER) {
    const address = new URL(path.split('/').map(encodeURIComponent).join('/'), self.registration.scope);
    if (await cache.match(address)) continue;
    const response = await fetch(address).catch(() => null);
    if (!response) return;
    if (response.ok) await keep(cache, address, response);
  }
}
`;

/** The strictest policy the folder works under. */
const POLICY = policyOf(
  { 'script-src': "'self'", 'worker-src': "'self'", 'connect-src': "'self'", 'style-src': "'self'" },
  "'self'",
);

function readmeOf(
  { page }: TakenAway,
  { collections, left }: { collections: Record<string, OfflineCollection>; left: number },
): string {
  const kB = (bytes: number): string => `${Math.ceil(bytes / 1024).toLocaleString('en')} kB`;
  const rows = Object.entries(collections).map(
    ([name, { records, indexBytes, partsBytes, parts }]) =>
      `| ${asMarkdown(name)} | ${records.toLocaleString('en')} | ${kB(indexBytes)} | ${kB(partsBytes)} in ${parts.length} files |`,
  );
  return `# ${asMarkdown(page.title)}

A search page that needs no server: the index lies beside it, and the engine runs in a thread of the page. Put the folder
where your site is, or look at it here:

\`\`\`sh
python3 -m http.server 8080
\`\`\`

It holds what was published when it was made. To change it, take it away again and put the new folder in its place:
browsers that keep the old one for times without a line see the new one at once.

## What is where

- \`index.html\`, \`record.html\`: the page, and the page of a record
- \`theme.css\`: colours and type around the page
- \`yucca-search.js\`, \`yucca-search-more.js\`, \`yucca-engine.js\`: the page and the engine
- \`data/\`: the index and the records, packed; \`files/\`: pictures
- \`offline.js\`, \`sw.js\`: keep it all for times without a line

| Collection | Records | Index | Records, fetched as they are shown |
| --- | --- | --- | --- |
${rows.join('\n')}

Records hold the fields that are shown or searched and no others. The first results come along with
\`data/manifest.json\`; the index is fetched with the first letter.
${left > 0 ? `\n${left.toLocaleString('en')} pictures are not in the folder: they are not on Yucca, or there was no room for them. Put them into \`files/\`.\n` : ''}
## Content-Security-Policy

The strictest header it works under:

\`\`\`
Content-Security-Policy: ${POLICY}
\`\`\`
`;
}
