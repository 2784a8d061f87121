import { createReadStream, readFileSync } from 'node:fs';
import path from 'node:path';
import { Readable } from 'node:stream';
import type { NewInterface, SearchAnswer, VisitorEvent } from '@yucca/contract';
import { COLLECTIONS } from './collections.ts';
import { INTERFACES } from './interfaces.ts';
import { NURSERY_LOGO } from './logo.ts';
import { makeTraffic } from './traffic.ts';
import { VISITS } from './visits.ts';

type Call = (method: string, route: string, body?: BodyInit, type?: string) => Promise<Response>;

/** Searches of the past that are sent at once. */
const LINES_AT_ONCE = 4_000;

/** The collection that comes with judged queries. */
const JUDGED = 'plants';

/** Loads the Quillbrook data into a running Yucca through its HTTP API. What is there already stays as it is. */
export async function loadQuillbrook(base: string, adminKey: string, dataDir: string): Promise<void> {
  const call: Call = async (method, route, body, type = 'application/json') => {
    const response = await fetch(`${base}/api/v1${route}`, {
      method,
      headers: { Authorization: `Bearer ${adminKey}`, ...(body === undefined ? {} : { 'Content-Type': type }) },
      ...(body === undefined ? {} : { body, duplex: 'half' }),
    } as RequestInit);
    if (!response.ok && response.status !== 404) throw new Error(`${method} ${route}: ${await response.text()}`);
    return response;
  };
  let isNew = false;
  for (const { name, title, tuning, draft } of COLLECTIONS) {
    if ((await call('GET', `/collections/${name}`)).ok) continue;
    isNew = true;
    process.stdout.write(`Loading ${name} …\n`);
    await call('POST', '/collections', JSON.stringify({ name, title, key: 'id' }));
    await call('PUT', `/collections/${name}/tuning/draft`, JSON.stringify(tuning));
    await call('POST', `/collections/${name}/tuning/publish`, JSON.stringify({ note: 'Quillbrook as it ships' }));
    const file = path.join(dataDir, 'quillbrook', `${name}.jsonl`);
    const rows = Readable.toWeb(createReadStream(file)) as unknown as BodyInit;
    await call('POST', `/collections/${name}/records?wait=true`, rows, 'application/x-ndjson');
    if (name === JUDGED) {
      const judgements = readFileSync(path.join(dataDir, 'quillbrook/judgements.json'), 'utf8');
      await call('PUT', `/collections/${name}/judgements`, judgements);
    }
    await visit(call, name);
    if (draft) await call('PATCH', `/collections/${name}/tuning/draft?wait=true`, JSON.stringify(draft));
  }
  if (isNew) await visitFor90Days(call);
  for (const page of INTERFACES) {
    if ((await call('GET', `/interfaces/${page.slug}`)).ok) continue;
    await call('POST', '/interfaces', JSON.stringify(page));
    if (page.slug === 'nursery') await addLogo(call, page);
  }
}

/** Gives a page its logo: the file first, then the design that names it. */
async function addLogo(call: Call, { slug, ...design }: NewInterface): Promise<void> {
  const sent = await call('POST', `/interfaces/${slug}/logo`, NURSERY_LOGO, 'image/svg+xml');
  const { file } = (await sent.json()) as { file: string };
  await call('PUT', `/interfaces/${slug}`, JSON.stringify({ ...design, header: { ...design.header, logo: file } }));
}

/** Brings ninety days of visitors, as another search would have logged them. */
async function visitFor90Days(call: Call): Promise<void> {
  const start = performance.now();
  const traffic = await makeTraffic(async (queries) => {
    const answer = await call('POST', '/search', JSON.stringify({ queries }));
    return ((await answer.json()) as { answers: SearchAnswer[] }).answers;
  }, Date.now());
  let all = 0;
  for (const [name, searches] of Object.entries(traffic)) {
    all += searches.length;
    for (let at = 0; at < searches.length; at += LINES_AT_ONCE) {
      const lines = searches.slice(at, at + LINES_AT_ONCE).map((search) => JSON.stringify(search));
      await call('POST', `/collections/${name}/insights/searches`, lines.join('\n'), 'application/x-ndjson');
    }
  }
  const seconds = ((performance.now() - start) / 1_000).toFixed(1);
  process.stdout.write(`Loaded 90 days of visitors: ${all} searches in ${seconds} s\n`);
}

/** Has visitors ask, and open the first result. */
async function visit(call: Call, collection: string): Promise<void> {
  const events: VisitorEvent[] = [];
  for (const [q, visits] of VISITS[collection] ?? []) {
    for (let visitor = 1; visitor <= visits; visitor++) {
      const answer = await call('POST', `/collections/${collection}/search`, JSON.stringify({ q, size: 1 }));
      const { queryId, results } = (await answer.json()) as SearchAnswer;
      const [first] = results;
      if (first) events.push({ type: 'click', queryId, recordId: first.id, position: 1, session: `visit-${visitor}` });
    }
  }
  for (let at = 0; at < events.length; at += 100)
    await call('POST', '/events', JSON.stringify({ events: events.slice(at, at + 100) }));
}

const [base, dataDir] = process.argv.slice(2);
if (base !== undefined && dataDir !== undefined) {
  await loadQuillbrook(base, process.env.YUCCA_ADMIN_KEY ?? '', dataDir);
}
