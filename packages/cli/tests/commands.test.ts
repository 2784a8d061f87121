import type { SearchAnswer } from '@yucca/contract';
import { createServer, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { asLines } from '../src/commands/search.ts';
import { formatOf } from '../src/commands/load.ts';
import { main } from '../src/main.ts';

/** A stand-in for the server: remembers what came, answers what the test says. */
class StandIn {
  readonly seen: { method: string; url: string; auth: string | undefined; body: string }[] = [];
  answer: [status: number, body: unknown] = [200, {}];
  #server: Server | null = null;

  async start(): Promise<string> {
    this.#server = createServer((request, response) => {
      void read(request).then((body) => {
        const { method = '', url = '', headers } = request;
        this.seen.push({ method, url, auth: headers.authorization, body });
        response.writeHead(this.answer[0], { 'Content-Type': 'application/json' });
        response.end(JSON.stringify(this.answer[1]));
      });
    });
    await new Promise<void>((resolve) => this.#server!.listen(0, '127.0.0.1', resolve));
    return `http://127.0.0.1:${(this.#server.address() as AddressInfo).port}`;
  }

  stop(): void {
    this.#server?.close();
  }
}

async function read(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const piece of request) text += String(piece);
  return text;
}

let server: StandIn;
let url = '';
const said = { out: '', err: '' };
beforeEach(async () => {
  server = new StandIn();
  url = await server.start();
  said.out = said.err = '';
  jest.spyOn(process.stdout, 'write').mockImplementation((text) => Boolean((said.out += String(text))));
  jest.spyOn(process.stderr, 'write').mockImplementation((text) => Boolean((said.err += String(text))));
});
afterEach(() => {
  server.stop();
  jest.restoreAllMocks();
});

const run = (...args: string[]): Promise<number> =>
  main(['node', 'yucca', ...args], { YUCCA_URL: url, YUCCA_KEY: 'secret' });

const ANSWER = {
  total: 2,
  results: [{ id: 'P-1', record: { id: 'P-1', name: 'Dog rose', price: 4 } }],
  facets: { colour: { kind: 'values', values: [{ label: 'Red', count: 2 }] } },
  timing: { engineMs: 0.4 },
  understood: { words: [{ text: 'roze', typo: true, as: ['rose'] }] },
} as unknown as SearchAnswer;

test('a search is sent with the key of the environment and printed a line a result', async () => {
  server.answer = [200, ANSWER];
  expect(await run('search', 'plants', 'roze', '--facets', 'colour', '--size', '5', '--filter', 'price < 9')).toBe(0);
  expect(server.seen).toEqual([
    {
      method: 'POST',
      url: '/api/v1/collections/plants/search',
      auth: 'Bearer secret',
      body: JSON.stringify({ q: 'roze', size: 5, filter: 'price < 9', facets: ['colour'] }),
    },
  ]);
  expect(said.out).toBe('2 found in 0.4 ms; “roze” read as rose\nP-1\tDog rose\ncolour: Red 2\n');
  expect(asLines(ANSWER)).toBe(said.out);
});

test('what the server refuses is said with its parts, and ends with 1', async () => {
  server.answer = [422, { detail: 'Not valid.', errors: [{ pointer: '/size', detail: 'must be less' }] }];
  expect(await run('search', 'plants')).toBe(1);
  expect(said.err).toBe('422 Not valid.\n  /size: must be less\n');
});

test('a server that is not there, a file that is not there, a file that is no JSON', async () => {
  server.stop();
  expect(await main(['node', 'yucca', '--url', 'http://127.0.0.1:9', 'search', 'plants'], {})).toBe(1);
  expect(said.err).toContain('does not answer');
  expect(await run('load', 'plants', '/nowhere.jsonl')).toBe(1);
  expect(await run('settings', 'push', 'plants', __filename)).toBe(1);
  expect(said.err).toContain('is not JSON');
  expect(await run('load', 'plants', 'plants.ods')).toBe(1);
  expect(said.err).toContain('--format');
});

test.each([
  [['fly']],
  [['load', 'plants']],
  [['search', 'plants', '--size', 'many']],
  [['load', 'p', 'f.csv', '--mode', 'x']],
])('wrong use, %j, ends with 2', async (args) => {
  expect(await run(...args)).toBe(2);
  expect(server.seen).toEqual([]);
});

test('help is no mistake', async () => {
  expect(await run('--help')).toBe(0);
});

test.each([
  ['plants.jsonl', 'ndjson'],
  ['plants.NDJSON.gz', 'ndjson'],
  ['a.tsv', 'csv'],
  ['a.json', 'json'],
  ['a.xml', 'xml'],
  ['news.rss', 'xml'],
  ['beds.yml', 'yaml'],
  ['stock.xlsx', 'xlsx'],
  ['gardens.geojson', 'json'],
  ['hedges.md', 'markdown'],
  ['a.ods', null],
  ['-', null],
])('%s holds %s', (name, format) => {
  expect(formatOf(name)).toBe(format);
});

test('a feed is found by its name, run, and told of; what waits for somebody ends with 3', async () => {
  const feed = { id: 'f1', name: 'Shop', collection: 'plants', source: { kind: 'poll' }, state: 'running', dead: 0, run: null, lagS: 2, reason: null }; // prettier-ignore
  server.answer = [200, { items: [feed] }];
  expect(await run('feed', 'status', 'Shop')).toBe(0);
  expect(said.out).toBe('f1\tShop\tplants\tpoll\trunning\t0 not applied\t2 s behind\n');
  server.answer = [200, { items: [{ ...feed, state: 'failing', reason: 'It answers 503.' }] }];
  expect(await run('feed', 'status', 'f1')).toBe(3);
  expect(said.out).toContain('It answers 503.');
  server.answer = [200, { items: [feed, { ...feed, id: 'f2' }] }];
  expect(await run('feed', 'run', 'Shop')).toBe(1);
  expect(said.err).toContain('Several feeds are called Shop');
  expect(await run('feed', 'compare', 'f2', 'absent.jsonl')).toBe(1);
  expect(said.err).toContain('There is no file absent.jsonl.');
});
