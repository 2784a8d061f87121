import { gzipSync } from 'node:zlib';
import { facetValues } from '@yucca/contract';
import { House, lines } from './house';

let house: House;
beforeAll(async () => void (house = await new House().open()));
afterAll(() => house.leave());

let next = 0;
async function collection(key = 'id'): Promise<string> {
  const name = `c${++next}`;
  await house.yucca.collections.create({ name, key });
  return name;
}

const NDJSON = 'application/x-ndjson';

test('a broken line never stops the good ones and is named by its number', async () => {
  const name = await collection();
  const text =
    '{"id":1,"name":"rose"}\n\n{"id":2,"name":\n[1,2]\n{"name":"no key"}\n{"id":"","name":"x"}\n{"id":{"a":1}}\n{"id":3,"name":"fern"}';
  const task = await house.load(name, text, NDJSON);
  expect(task).toMatchObject({ state: 'done', done: 2, failed: 5, total: 7 });
  expect(task.errors.map(({ line }) => line)).toEqual([3, 4, 5, 6, 7]);
  expect(task.errors[0]!.text).toBe('{"id":2,"name":');
  expect(task.errors[1]!.detail).toBe('a record is a JSON object, this is a list');
  expect(await house.ids(name, '')).toEqual(['1', '3']);
});

test('two records with one key: the last one is kept and the repeat is counted', async () => {
  const name = await collection();
  const task = await house.load(name, lines([{ id: 'a', n: 'old' }, { id: 'b' }, { id: 'a', n: 'new' }]), NDJSON);
  expect(task).toMatchObject({ done: 3, failed: 0, repeated: 1 });
  expect(await house.yucca.records.get(name, 'a')).toEqual({ id: 'a', n: 'new' });
  expect(house.yucca.collections.get(name).records).toBe(2);
});

test('a file loaded twice doubles nothing, with and without a key', async () => {
  const keyed = await collection();
  const rows = lines([
    { id: 1, n: 'x' },
    { id: 2, n: 'y' },
  ]);
  await house.load(keyed, rows, NDJSON);
  const before = house.yucca.collections.get(keyed).changedAt;
  await house.load(keyed, rows, NDJSON);
  expect(house.yucca.collections.get(keyed)).toMatchObject({ records: 2, changedAt: before });
  const unkeyed = await collection('key');
  const plain = lines([{ n: 'same' }, { n: 'same' }, { n: 'other' }]);
  await house.load(unkeyed, plain, NDJSON, { assignKeys: true });
  await house.load(unkeyed, plain, NDJSON, { assignKeys: true });
  expect(house.yucca.collections.get(unkeyed).records).toBe(3);
});

test('modes: insert refuses what is there, merge patches it', async () => {
  const name = await collection();
  await house.load(name, lines([{ id: 1, a: 1, deep: { x: 1, y: 2 } }]), NDJSON);
  const inserted = await house.load(name, lines([{ id: 1, a: 2 }, { id: 2 }]), NDJSON, { mode: 'insert' });
  expect(inserted).toMatchObject({ done: 1, failed: 1, errors: [{ line: 1, id: '1' }] });
  await house.load(name, lines([{ id: 1, b: 3, deep: { x: null } }]), NDJSON, { mode: 'merge' });
  expect(await house.yucca.records.get(name, '1')).toEqual({ id: 1, a: 1, b: 3, deep: { y: 2 } });
});

test('CSV: quotes, line breaks in cells, a byte order mark, semicolons and wrong rows', async () => {
  const name = await collection();
  const text =
    '\ufeffid;name;note\r\n1;"Rose; red";"two\nlines ""quoted"""\r\n2;short\r\n3;Fern;\r\n;keyless;x\r\n4;st"ray;quote\r\n5;Moss;soft\r\n';
  const task = await house.load(name, text, 'text/csv');
  expect(await house.yucca.records.get(name, '1')).toEqual({ id: '1', name: 'Rose; red', note: 'two\nlines "quoted"' });
  expect(await house.yucca.records.get(name, '3')).toEqual({ id: '3', name: 'Fern' });
  expect(await house.yucca.records.get(name, '5')).toEqual({ id: '5', name: 'Moss', note: 'soft' });
  expect(task).toMatchObject({ state: 'done', done: 3, failed: 3 });
  expect(task.errors.map(({ line }) => line).sort()).toEqual([4, 6, 7]);
});

test('CSV: columns without a name or with one twice all keep their cells', async () => {
  const name = await collection();
  await house.load(name, 'id,,name,name\n1,a,b,c\n', 'text/csv');
  expect(await house.yucca.records.get(name, '1')).toEqual({ id: '1', 'column 2': 'a', name: 'b', 'name 2': 'c' });
});

test('with tabs, a quote inside a cell is a quote', async () => {
  const name = await collection();
  const task = await house.load(name, 'id\tname\n1\tthe 6" pot\n2\t"quoted\tcell"\n3\tplain\n', 'text/csv');
  expect(task).toMatchObject({ done: 3, failed: 0 });
  expect((await house.yucca.records.list(name, 1, 5)).items).toEqual([
    { id: '1', name: 'the 6" pot' },
    { id: '2', name: 'quoted\tcell' },
    { id: '3', name: 'plain' },
  ]);
});

test('a JSON array, one object, and an array that breaks off', async () => {
  const name = await collection();
  expect(await house.load(name, '[{"id":1},{"id":2,"n":[{"deep":true}]},7]', 'application/json')).toMatchObject({
    done: 2,
    failed: 1,
  });
  expect(await house.load(name, '{"id":3}', 'application/json')).toMatchObject({ state: 'done', done: 1 });
  const broken = await house.load(name, '[{"id":4},{"id":5},{"id":', 'application/json');
  expect(broken).toMatchObject({ state: 'failed', done: 2 });
  expect(broken.errors[0]!.detail).toMatch(/not closed|breaks off/);
  expect(await house.ids(name, '')).toEqual(['1', '2', '3', '4', '5']);
  expect(await house.load(name, 'banana', 'application/json')).toMatchObject({ state: 'failed', done: 0 });
});

test('an input without records says so', async () => {
  const name = await collection();
  expect(await house.load(name, '', NDJSON)).toMatchObject({
    state: 'failed',
    errors: [{ detail: 'The input held no records.' }],
  });
});

test('gzip is unpacked, and what only claims to be gzip is refused', async () => {
  const name = await collection();
  const packed = gzipSync(lines([{ id: 1, name: 'zinnia' }]));
  expect(await house.load(name, packed, NDJSON, { gzip: true })).toMatchObject({ done: 1 });
  expect(await house.load(name, 'plain', NDJSON, { gzip: true })).toMatchObject({ state: 'failed' });
  expect(await house.ids(name, 'zinnia')).toEqual(['1']);
});

test('hostile strings come out as they went in', async () => {
  const name = await collection();
  const keys = [
    '__proto__',
    'constructor',
    'e/4 ?&#%',
    "'; drop table records; --",
    '\u202eabc',
    '👩‍🌾',
    ' ',
    '1e3',
    'a\u0000b',
  ];
  const records = keys.map((id) => ({ id, text: `value of ${id}`, ['__proto__']: { polluted: true } }));
  const texts = records.map((record) => JSON.stringify(record));
  const task = await house.load(name, texts.join('\n'), NDJSON);
  expect(task).toMatchObject({ done: keys.length, failed: 0 });
  for (const [i, key] of keys.entries())
    expect(JSON.stringify(await house.yucca.records.get(name, key))).toBe(texts[i]);
  const bad = await house.load(name, '{"id":"\\ud800"}\n' + JSON.stringify({ id: 'x'.repeat(600) }), NDJSON);
  expect(bad).toMatchObject({ done: 0, failed: 2 });
});

test('a record too large and one nested too deep fail alone', async () => {
  const name = await collection();
  const deep = `{"id":"deep","a":${'['.repeat(60_000)}${']'.repeat(60_000)}}`;
  const task = await house.load(
    name,
    `${JSON.stringify({ id: 'big', text: 'x'.repeat(300_000) })}\n${deep}\n{"id":"ok"}\n`,
    NDJSON,
  );
  expect(task.errors[0]).toMatchObject({ line: 1, id: 'big' });
  expect(await house.ids(name, '')).toContain('ok');
});

test('a load can be cancelled; what was stored stays', async () => {
  const name = await collection();
  const id = '00000000-0000-4000-8000-000000000001';
  let sent = 0;
  const body = (async function* () {
    for (; sent < 4000; sent++) {
      if (sent === 2000) house.yucca.tasks.cancel(id);
      yield Buffer.from(lines(Array.from({ length: 20 }, (_, i) => ({ id: sent * 20 + i, text: `row ${sent}` }))));
    }
  })();
  const { searchable } = await house.yucca.records.load(name, {
    taskId: id,
    mediaType: NDJSON,
    gzip: false,
    mode: 'replace',
    assignKeys: false,
    bytes: null,
    body,
  });
  const task = await searchable;
  expect(task.state).toBe('cancelled');
  expect(task.done).toBeGreaterThan(0);
  expect(task.done).toBeLessThan(80_000);
  expect((await house.search(name, '')).total).toBe(task.done);
});

test('when the sender vanishes the load ends with a sentence and keeps what came', async () => {
  const name = await collection();
  const body = (async function* () {
    yield Buffer.from(lines([{ id: 1 }, { id: 2 }]));
    throw new Error('socket hung up');
  })();
  const task = await (
    await house.yucca.records.load(name, {
      mediaType: NDJSON,
      gzip: false,
      mode: 'replace',
      assignKeys: false,
      bytes: null,
      body,
    })
  ).searchable;
  expect(task).toMatchObject({ state: 'failed', done: 2 });
  expect(task.errors[0]!.detail).toMatch(/connection ended/);
});

test('a first load guesses facets and a card, and never again', async () => {
  const name = await collection();
  const records = Array.from({ length: 60 }, (_, i) => ({
    id: i,
    name: `Plant number ${i}`,
    colour: ['red', 'white', 'blue'][i % 3],
    picture: `/files/p/${i}.svg`,
    price: i + 0.5,
  }));
  await house.load(name, lines(records), NDJSON);
  expect(house.yucca.collections.card(name)).toMatchObject({ title: 'name', picture: 'picture', number: 'price' });
  const { facets } = await house.search(name, { facets: ['*'] });
  expect(facetValues(facets.colour).map(({ value, count }) => [value, count])).toEqual([
    ['blue', 20],
    ['red', 20],
    ['white', 20],
  ]);
  await house.yucca.tunings.replaceDraft(name, { facets: [] });
  await house.yucca.tunings.publish(name, null);
  await house.load(name, lines(records), NDJSON);
  expect((await house.search(name, { facets: ['*'] })).facets).toEqual({});
});
