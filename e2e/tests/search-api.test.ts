import { request } from 'node:http';
import type {
  FacetValuesAnswer,
  NumbersFacet,
  ProblemJson,
  SearchAnswer,
  SuggestAnswer,
  TreeFacet,
  TrialAnswer,
  TuningDocument,
  TypoExamples,
  Whereabouts,
} from '@yucca/contract';
import { loadPlants, Server, somePlants } from '../src/server';

let server: Server;

const TUNING: TuningDocument = {
  search: [{ field: 'name', weight: 5 }, { field: 'care' }],
  synonyms: [{ kind: 'same', words: ['snake plant', 'sansevieria'] }],
  facets: [
    { name: 'colour', field: 'colour' },
    { name: 'price', field: 'price', kind: 'numbers', buckets: [0, 10, 20] },
    { name: 'category', field: 'category', kind: 'tree' },
  ],
  sorts: [{ name: 'price-high', by: [{ field: 'price', order: 'desc' }] }],
  geo: 'at',
  snippets: [{ field: 'care', words: 6 }],
  placements: [{ name: 'mint-first', when: { query: 'garden' }, pin: [{ id: 'P-001', at: 1 }], notice: 'In season' }],
};

beforeAll(async () => {
  server = await new Server().start();
  const records = somePlants().map((plant, i) => ({
    ...plant,
    category: i % 2 ? 'Indoor > Succulents' : 'Outdoor > Shrubs',
    at: { lat: 47 + i / 100, lng: -18 },
  }));
  await loadPlants(server, 'plants', records);
  await server.call('PUT', '/collections/plants/tuning/draft?wait=true', TUNING);
  await server.call('POST', '/collections/plants/tuning/publish', {});
});
afterAll(() => server.leave());

const search = (query: string): Promise<SearchAnswer> =>
  server.json<SearchAnswer>('GET', `/collections/plants/search?${query}`);

test('a synonym of several words, a snippet, an explanation', async () => {
  const { total, results } = await search('q=sansevieria&explain=true&size=1');
  expect(total).toBe(20);
  expect(results[0]!.marks['/name']).toEqual([
    [0, 5],
    [6, 11],
  ]);
  expect(results[0]!.why!.parts[0]).toMatchObject({ how: 'synonym', matched: 'snake plant', field: 'name' });
  expect(results[0]!.snippets['/care']![0]!.text.split(' ').length).toBeLessThanOrEqual(7);
});

test('ranges, trees, filters, sorts and places over GET', async () => {
  const select = encodeURIComponent(JSON.stringify({ price: { min: 10 }, category: ['Indoor'] }));
  const answer = await search(
    `select=${select}&facets=*&sort=price-high&filter=${encodeURIComponent("colour <> 'blue'")}`,
  );
  expect(answer.results.map(({ record }) => Number(record.price))).toEqual(
    answer.results.map(({ record }) => Number(record.price)).sort((a, b) => b - a),
  );
  expect((answer.facets.price as NumbersFacet).selected).toEqual({ min: 10 });
  expect((answer.facets.category as TreeFacet).nodes[0]!.children[0]!.path).toMatch(/ > /);
  const near = await search('near=47.5,-18&withinM=3000&sort=distance&size=3');
  expect(near.total).toBe(5);
  expect(near.results.map(({ id }) => id)).toEqual(['P-051', 'P-050', 'P-052']);
  expect(near.results[1]!.distanceM).toBeGreaterThan(1000);
});

test('a placement pins, and says what it says', async () => {
  const { results, understood } = await search('q=garden');
  expect(results[0]).toMatchObject({ id: 'P-001', pinned: true });
  expect(understood).toMatchObject({ placements: ['mint-first'], notice: 'In season' });
});

test.each([
  ['filter=colr%3D1', '/filter', 'did you mean "colour"'],
  ['sort=price-hihg', '/sort', 'Did you mean “price-high”'],
  ['sort=distance', '/sort', 'needs near'],
  ['near=north', '/near', 'latitude'],
  ['withinM=5', '/withinM', 'needs near'],
  ['near=47,-18&withinM=-5', '/near/withinM', 'must be > 0'],
  ['select=%7B%22colour%22%3A%7B%22min%22%3A1%7D%7D', '/select/colour', 'not a range'],
  ['explain=perhaps', '/explain', 'boolean'],
])('?%s is refused at %s', async (query, pointer, words) => {
  const response = await server.call('GET', `/collections/plants/search?${query}`);
  const problem = (await response.json()) as ProblemJson;
  expect(response.status).toBe(422);
  expect(problem.errors!.map((part) => part.pointer)).toContain(pointer);
  expect(problem.detail).toContain(words);
});

test('several searches in one call: each answered in its place, a bad one by a problem', async () => {
  const { answers } = await server.json<{ answers: (SearchAnswer & ProblemJson)[] }>('POST', '/search', {
    queries: [
      { collection: 'plants', q: 'rose', size: 1 },
      { collection: 'nowhere', q: 'rose' },
      { collection: 'plants', size: 1000 },
      { collection: 'plants', q: 'fern', size: 0 },
    ],
  });
  expect(answers.map(({ total, status }) => total ?? status)).toEqual([20, 404, 422, 20]);
  const tooMany = { queries: Array.from({ length: 11 }, () => ({ collection: 'plants' })) };
  expect((await server.call('POST', '/search', tooMany)).status).toBe(422);
});

test('completions among searches, and the same as plain text, for which a browser asks no leave', async () => {
  const queries = [
    { collection: 'plants', suggest: { q: 'succ', size: 3 } },
    { collection: 'plants', q: 'succ', size: 0 },
    { collection: 'plants', suggest: { q: 'succ' }, q: 'succ' },
    { collection: 'nowhere', suggest: { q: 'succ' } },
    { collection: 'plants', suggest: { size: 500 } },
  ];
  const alone = await server.json<SuggestAnswer>('GET', '/collections/plants/suggest?q=succ&size=3');
  const asText = await fetch(`${server.base}/api/v1/search`, {
    method: 'POST',
    headers: { 'Content-Type': 'text/plain;charset=UTF-8', Authorization: `Bearer ${server.adminKey}` },
    body: JSON.stringify({ queries }),
  });
  const { answers } = (await asText.json()) as { answers: (SuggestAnswer & SearchAnswer & ProblemJson)[] };
  expect(answers[0]).toEqual(alone);
  expect(answers.slice(1).map(({ total, status }) => total ?? status)).toEqual([expect.any(Number), 422, 404, 422]);
});

test('values of a facet, and completions', async () => {
  const values = await server.json<FacetValuesAnswer>('GET', '/collections/plants/facets/colour?q=gren&query=rose');
  expect(values).toMatchObject({ total: 1, values: [{ value: 'green, dark', count: 10 }] });
  const { suggestions } = await server.json<SuggestAnswer>('GET', '/collections/plants/suggest?q=succ');
  expect(suggestions[0]).toMatchObject({ kind: 'value', facet: 'category', text: 'Succulents', ranges: [[0, 4]] });
  expect((await server.call('GET', '/collections/plants/facets/price?q=1')).status).toBe(422);
  const within = (filter: string): Promise<Response> =>
    server.call('GET', `/collections/plants/suggest?${new URLSearchParams({ q: 'succ', filter })}`);
  const [of] = ((await (await within('price < 6')).json()) as SuggestAnswer).suggestions;
  expect(of!.count).toBeLessThan(suggestions[0]!.count!);
  const refused = await within('colour =');
  expect([refused.status, ((await refused.json()) as ProblemJson).errors?.[0]?.pointer]).toEqual([422, '/filter']);
});

test('what visitors asked for and opened completes the typing of the next, within one request', async () => {
  const offered = async (q: string): Promise<SuggestAnswer['suggestions']> => {
    const { suggestions } = await server.json<SuggestAnswer>('GET', `/collections/plants/suggest?q=${q}`);
    return suggestions.filter(({ kind }) => kind === 'query');
  };
  const visit = async (q: string, session: string): Promise<void> => {
    const { queryId, results } = await server.json<SearchAnswer>('POST', '/collections/plants/search', { q });
    const click = { type: 'click', queryId, recordId: results[0]!.id, position: 1, session };
    expect((await server.call('POST', '/events', { events: [click] })).status).toBe(202);
  };
  await visit('fern 11', 'anna');
  await visit('ros', 'anna');
  await visit('ros', 'bo');
  expect(await offered('fe')).toEqual([]);
  await visit('Fern 11', 'bo');
  const { total } = await server.json<SearchAnswer>('POST', '/collections/plants/search', { q: 'fern 11', size: 0 });
  // Counted after the events were answered for.
  for (let i = 0; i < 100 && (await offered('fe')).length === 0; i++) await new Promise((go) => setTimeout(go, 50));
  expect(await offered('fe')).toEqual([{ text: 'fern 11', ranges: [[0, 2]], count: total, kind: 'query' }]);
  expect(await offered('ro')).toEqual([]);
});

test('records are deleted by a condition; an old version of the tuning becomes the draft', async () => {
  await loadPlants(server, 'spare');
  const filter = "price < 5 OR name LIKE 'Dog%'";
  const expected = await server.json<SearchAnswer>('POST', '/collections/spare/search', { filter, size: 0 });
  const { deleted } = await server.json<{ deleted: number }>('POST', '/collections/spare/records/delete', { filter });
  expect(deleted).toBe(expected.total);
  expect((await server.json<SearchAnswer>('GET', '/collections/spare/search?size=0')).total).toBe(120 - deleted);
  const draft = await server.json<TuningDocument>('POST', '/collections/plants/tuning/versions/1/restore');
  expect(draft).toEqual({});
  expect((await server.call('POST', '/collections/plants/tuning/versions/99/restore')).status).toBe(404);
  await server.call('DELETE', '/collections/plants/tuning/draft');
});

test.each([
  [{ facets: [{ name: 'p', field: 'price', kind: 'numbers', buckets: [1, 1] }] }, '/facets/0/buckets'],
  [{ sorts: [{ name: 'relevance', by: [{ field: 'x' }] }] }, '/sorts/0/name'],
  [{ placements: [{ name: 'a', when: {}, lift: ['brand ='] }] }, '/placements/0/lift/0'],
  [{ placements: [{ name: 'a', when: { from: 'May' } }] }, '/placements/0/when/from'],
  [{ synonyms: [{ kind: 'same', words: ['one'] }] }, '/synonyms/0/words'],
])('a tuning that does not fit together is refused: %j', async (document, pointer) => {
  const response = await server.call('PUT', '/collections/plants/tuning/draft', document);
  expect(response.status).toBe(422);
  expect(((await response.json()) as ProblemJson).errors!.map((part) => part.pointer)).toContain(pointer);
});

test('whatever is asked, the answer is an answer or a problem, and soon', async () => {
  const odd = [
    '__proto__',
    'constructor',
    '%00',
    '\u202eesor',
    '"""""',
    '-',
    '---a',
    '💐'.repeat(40),
    '*',
    '%',
    "' OR 1=1",
  ];
  const times: number[] = [];
  for (const text of odd) {
    const word = encodeURIComponent(text);
    for (const query of [
      `q=${word}`,
      `filter=${word}`,
      `sort=${word}`,
      `facets=${word}`,
      `select=${word}`,
      `fields=${word}`,
    ]) {
      const start = performance.now();
      const { status } = await server.call('GET', `/collections/plants/search?${query}`);
      times.push(performance.now() - start);
      expect([query, status < 500]).toEqual([query, true]);
    }
  }
  for (const body of [
    '{"q":"\\ud800"}',
    '{"filter":"\\ud83d"}',
    `{"q":"${'" '.repeat(255)}"}`,
    '{"select":{"__proto__":["a"]}}',
  ]) {
    expect((await server.call('POST', '/collections/plants/search', body)).status).toBeLessThan(500);
  }
  expect(times.sort((a, b) => a - b)[Math.floor(times.length / 2)]).toBeLessThan(250);
});

test('where a record stands, or what keeps it out; nothing of it without the right to read', async () => {
  const ask = (body: object) => server.json<Whereabouts>('POST', '/collections/plants/whereabouts', body);
  const [first] = (await search('q=lavender&size=1')).results;
  expect(await ask({ q: 'lavender', id: first!.id })).toMatchObject({ place: 1, reasons: [] });
  expect((await ask({ q: 'lavendel zebra', id: first!.id })).reasons).toMatchObject([{ kind: 'word', word: 'zebra' }]);
  expect((await ask({ id: 'nobody' })).reasons).toEqual([{ kind: 'absent' }]);
  expect((await server.call('POST', '/collections/plants/whereabouts', { q: 'x' })).status).toBe(422);
  const { secret } = await server.json<{ secret: string }>('POST', '/keys', { label: 'Page', rights: ['search'] });
  const refused = [
    ['POST', '/collections/plants/whereabouts', '{"id":"P-001"}'],
    ['GET', '/collections/plants/search?version=1'],
    ['GET', '/collections/plants/search?on=2026-12-24'],
    ['GET', '/collections/plants/synonyms'],
    ['POST', '/collections/plants/tuning/trial', '{"tuning":{},"queries":["x"]}'],
  ];
  for (const [method, route, body] of refused) {
    const response = await server.call(method!, route!, body, { Authorization: `Bearer ${secret}` });
    expect([route, response.status]).toEqual([route, 403]);
  }
});

test('a published version answers by its number, as long as the index has what it needs', async () => {
  const before = await search('q=sansevieria');
  await server.api('PUT', '/collections/plants/tuning/draft', { ...TUNING, synonyms: [] });
  const { version } = await server.api<{ version: number }>('POST', '/collections/plants/tuning/publish', {});
  expect((await search('q=sansevieria')).total).toBe(0);
  expect((await search(`q=sansevieria&version=${version - 1}`)).total).toBe(before.total);
  expect((await server.call('GET', '/collections/plants/search?version=99')).status).toBe(404);
  expect((await server.call('GET', '/collections/plants/search?version=old')).status).toBe(422);
  await server.api('PUT', '/collections/plants/tuning/draft', TUNING);
  await server.api('POST', '/collections/plants/tuning/publish', {});
});

test('placements are looked at for another day', async () => {
  const placements = [{ name: 'spring', when: { query: 'mint', from: '2027-03-01', to: '2027-05-31' }, notice: 'Now' }];
  await server.api('PUT', '/collections/plants/tuning/draft', { ...TUNING, placements });
  const notice = async (on: string) => (await search(`q=mint&version=draft&on=${on}`)).understood.notice;
  expect([await notice('2027-02-28'), await notice('2027-03-01')]).toEqual([null, 'Now']);
  expect((await server.call('GET', '/collections/plants/search?on=spring')).status).toBe(422);
  await server.call('DELETE', '/collections/plants/tuning/draft');
});

test('a placement speaks on the search page, or sends the visitor on', async () => {
  const placements = [
    ...TUNING.placements!,
    { name: 'collecting', when: { query: 'collect' }, redirect: '/s/plants?q=mint' },
    { name: 'tricked', when: { query: 'trick' }, redirect: 'javascript:alert(1)' },
  ];
  await server.api('PUT', '/collections/plants/tuning/draft', { ...TUNING, placements });
  await server.api('POST', '/collections/plants/tuning/publish', {});
  const open = (query: string) => fetch(`${server.base}/s/plants?${query}`, { redirect: 'manual' });
  expect(await (await open('q=garden')).text()).toContain('data-part="notice">In season<');
  const sent = await open('q=collect');
  expect([sent.status, sent.headers.get('location')]).toEqual([307, '/s/plants?q=mint']);
  // The developer's panel stays, and an address that is none leads nowhere.
  expect((await open('q=collect&lens=1')).status).toBe(200);
  expect((await open('q=trick')).status).toBe(200);
  await server.api('PUT', '/collections/plants/tuning/draft', TUNING);
  await server.api('POST', '/collections/plants/tuning/publish', {});
});

test('a tuning on trial changes nothing but says what it would', async () => {
  const tuning = { ...TUNING, synonyms: [{ kind: 'same', words: ['zebra', 'mint'] }] };
  const ask = { tuning, queries: ['zebra', 'mint'] };
  const { effects } = await server.api<TrialAnswer>('POST', '/collections/plants/tuning/trial', ask);
  expect(effects.map(({ query, before, after }) => [query, before.total, after.total])).toEqual([
    ['zebra', 0, 20],
    ['mint', 20, 20],
  ]);
  expect((await search('q=zebra')).total).toBe(0);
  const bad = await server.call('POST', '/collections/plants/tuning/trial', {
    tuning: { nonsense: 1 },
    queries: ['x'],
  });
  expect(bad.status).toBe(422);
});

test('synonyms go out as CSV and SKOS, and a file is read without being saved', async () => {
  const text = async (format: string) =>
    (await server.call('GET', `/collections/plants/synonyms?format=${format}`)).text();
  expect(await text('csv')).toContain('same,snake plant,sansevieria');
  expect(await text('turtle')).toContain('skos:altLabel "sansevieria"@en');
  const read = (body: string, type: string) =>
    server.call('POST', '/collections/plants/synonyms/read', body, { 'Content-Type': type });
  expect(await (await read(await text('turtle'), 'text/turtle')).json()).toEqual({
    groups: TUNING.synonyms,
    ignored: [],
  });
  expect((await read('<a></b>', 'application/rdf+xml')).status).toBe(400);
  expect((await read('{}', 'application/json')).status).toBe(415);
});

test('the typo rules of a draft show what they let in', async () => {
  await server.api('PUT', '/collections/plants/tuning/draft', { ...TUNING, typos: { oneFrom: 3, twoFrom: 3 } });
  const examples = await server.api<TypoExamples>('GET', '/collections/plants/tuning/draft/typos');
  expect(examples.gainedCount).toBeGreaterThan(0);
  expect(examples.lostCount).toBe(0);
  await server.call('DELETE', '/collections/plants/tuning/draft');
  const none = await server.api<TypoExamples>('GET', '/collections/plants/tuning/draft/typos');
  expect(none.tried).toBe(0);
});

test('an answer is compressed for visitors elsewhere, not for this machine', async () => {
  const askedFrom = (more: Record<string, string>) =>
    new Promise<string | undefined>((resolve, reject) => {
      const headers = { authorization: `Bearer ${server.adminKey}`, 'accept-encoding': 'gzip', ...more };
      request(`${server.base}/api/v1/collections/plants/search?q=snake`, { headers }, (response) => {
        response.resume().on('end', () => resolve(response.headers['content-encoding']));
      })
        .on('error', reject)
        .end();
    });
  expect(await askedFrom({ 'x-forwarded-for': '203.0.113.9' })).toBe('gzip');
  // By where the connection comes from, not by the name that was asked for.
  expect(await askedFrom({})).toBeUndefined();
  expect(await askedFrom({ host: 'shop.quillbrook.example' })).toBeUndefined();
});
