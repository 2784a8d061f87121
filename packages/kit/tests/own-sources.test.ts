import { addressSource, listSource } from '../src/index.ts';

const signal = new AbortController().signal;
const offersOf = async (source: ReturnType<typeof listSource>, text: string) =>
  (await source.load(text, signal)).flatMap(({ offers }) => offers);

const answers = (body: unknown, status = 200) => {
  const asked: string[] = [];
  globalThis.fetch = (async (url: string, init: RequestInit) => {
    asked.push(`${init.credentials} ${url}`);
    return new Response(JSON.stringify(body), { status });
  }) as typeof fetch;
  return asked;
};

test('rows of one’s own begin with what is typed; those with an address lead there', async () => {
  const rows = [{ text: 'Opening hours', href: '/hours' }, { text: 'Orchids' }, { text: 'Opera' }];
  const source = listSource({ label: 'Help', size: 2, rows }, 'list-0');
  expect(source.from).toBe(0);
  expect((await offersOf(source, 'op')).map(({ kind, text, href }) => [kind, text, href])).toEqual([
    ['link', 'Opening hours', '/hours'],
    ['query', 'Opera', undefined],
  ]);
  expect(await offersOf(source, '')).toHaveLength(2);
});

test('an address is asked without cookies, and of what it answers only rows are taken', async () => {
  const asked = answers([
    { text: 'Sale', href: 'https://shop.example/sale', picture: 'https://shop.example/s.png', detail: 'today' },
    { text: 'Bad', href: 'javascript:alert(1)', picture: 'data:image/png;base64,x' },
    { text: 7 },
    null,
    'text',
    { text: 'Third' },
  ]);
  const source = addressSource({ label: 'Offers', size: 2, address: 'https://shop.example/o?q={q}' }, 'address-0');
  const offers = await offersOf(source, 'a&b');
  expect(asked).toEqual(['omit https://shop.example/o?q=a%26b']);
  expect(offers.map(({ kind, text, href, picture }) => [kind, text, href, picture])).toEqual([
    ['link', 'Sale', 'https://shop.example/sale', 'https://shop.example/s.png'],
    ['query', 'Bad', undefined, undefined],
  ]);
});

test('what is no list, and a server that refuses, offer nothing', async () => {
  const source = addressSource({ label: 'Offers', size: 2, address: 'https://shop.example/{q}' }, 'address-0');
  for (const body of [{}, 'x', null, 3]) {
    answers(body);
    expect(await offersOf(source, 'a')).toEqual([]);
  }
  answers([{ text: 'a' }], 500);
  expect(await offersOf(source, 'a')).toEqual([]);
});
