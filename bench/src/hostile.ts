import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { completeTuning, LIMITS, type SearchRequest, type Tuning } from '@yucca/contract';
import { search, SearchRequestError, Segment, Tombstones, type Generation } from '@yucca/engine';
import { tuning, tuningDocument } from './collection.ts';
import { Generator } from './generator.ts';
import { keystrokes } from './keystrokes.ts';
import { round, timed } from './stats.ts';

export interface HostileResult {
  /** The longest of the requests that are made to cost much, and which it was. */
  hostileMs: number;
  hostileWhat: string;
  /** The last page that may be asked for: 200 of 10,000 results of two common words. */
  lastPageMs: number;
}

export interface Hostile {
  what: string;
  request: SearchRequest;
  tuning?: Tuning;
}

/**
 * Asks what is made to cost much, in a thread of its own as a searcher is: beside the texts of the bench the garbage
 * collector would take longer than the searches.
 */
export async function measureHostile(buffer: SharedArrayBuffer): Promise<HostileResult> {
  const runs: HostileTimes[] = [];
  for (let run = 0; run < RUNS; run++) {
    const worker = new Worker(new URL(import.meta.url), { workerData: { buffer } satisfies HostileJob });
    runs.push(((await once(worker, 'message')) as [HostileTimes])[0]);
  }
  const middle = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(RUNS / 2)]!;
  const times = runs[0]!.asked.map(({ what }, i) => ({ what, ms: middle(runs.map(({ asked }) => asked[i]!.ms)) }));
  const worst = times.reduce((a, b) => (b.ms > a.ms ? b : a));
  return {
    hostileMs: round(worst.ms, 1),
    hostileWhat: worst.what,
    lastPageMs: round(middle(runs.map(({ lastPageMs }) => lastPageMs)), 1),
  };
}

/** Threads that are asked the same, one after the other: of each request the middle one counts. */
const RUNS = 3;

export interface HostileTimes {
  asked: { what: string; ms: number }[];
  lastPageMs: number;
}

export interface HostileJob {
  buffer: SharedArrayBuffer;
}

/**
 * What the thread does. Others of their kind are asked before, as with the keystrokes: the first pay for compiling.
 * Each is asked once, since what has been asked is remembered.
 */
export function answerHostile({ buffer }: HostileJob): HostileTimes {
  const segment = new Segment(buffer);
  const dead = Tombstones.none(segment.docs, (bytes) => new SharedArrayBuffer(bytes));
  const generation: Generation = { number: 1, segments: [{ segment, dead }] };
  const ask = ({ request, tuning: own = tuning }: Hostile): number =>
    timed(() => {
      try {
        search(generation, own, { facets: ['*'], size: 20, ...request });
      } catch (error) {
        // Being refused is an answer too.
        if (!(error instanceof SearchRequestError)) throw error;
      }
    });
  const generator = new Generator();
  keystrokes(generator)
    .slice(0, 300)
    .forEach((q) => ask({ what: '', request: { q } }));
  for (const from of [40, 80, 120, 160, 200]) hostileRequests(generator, from, from / 20 + 1).forEach(ask);
  const asked = hostileRequests(generator, 0, 0).map((one) => ({ what: one.what, ms: ask(one) }));
  const [first, second] = generator.vocabulary;
  const last: SearchRequest = {
    q: `${first} ${second}`,
    size: LIMITS.pageSize,
    page: LIMITS.resultWindow / LIMITS.pageSize,
  };
  return { asked, lastPageMs: ask({ what: 'the last page', request: last }) };
}

const any = completeTuning({ ...tuningDocument, words: { require: 'any' } });
const most = completeTuning({ ...tuningDocument, words: { require: 'most' } });
const grouped = completeTuning({ ...tuningDocument, group: { field: 'maker', keep: 1 } });
const sorted = completeTuning({
  ...tuningDocument,
  sorts: [{ name: 'price', label: 'Price', by: [{ field: 'price', order: 'asc' }] }],
});

/** As many parts as a filter has room for. */
function filled(part: (i: number) => string, join: string): string {
  let filter = part(0);
  for (let i = 1; ; i++) {
    const longer = filter + join + part(i);
    if (longer.length > LIMITS.filterLength) return filter;
    filter = longer;
  }
}

/**
 * As many long misspelt words as are read, phrases of the commonest words, wanted and not wanted, quotes without end,
 * one endless word; filters as long as they may be, on every kind of field; as many choices as can be made. `from`
 * makes them others, and `fromFrequent` the phrases of the few words that stand nearly everywhere.
 */
export function hostileRequests({ vocabulary }: Generator, from: number, fromFrequent: number): Hostile[] {
  const long = vocabulary.filter((word) => word.length >= 8).slice(from, from + 400);
  const common = (i: number): string => vocabulary[from + i]!;
  const frequent = (i: number): string => vocabulary[fromFrequent + i]!;
  const misspelt = (i: number): string => `${long[i]!.slice(0, 3)}q${long[i]!.slice(4)}`;
  const list = (count: number, word: (i: number) => string, join = ' '): string =>
    Array.from({ length: count }, (_, i) => word(i)).join(join);
  const q = (what: string, text: string, own?: Tuning): Hostile => ({
    what,
    request: { q: text },
    ...(own && { tuning: own }),
  });
  const filter = (what: string, text: string): Hostile => ({ what, request: { filter: text } });
  return [
    q(
      'misspelt words',
      list(40, (i) => misspelt(i * 7)),
    ),
    q('common words', list(32, common)),
    q(
      'common words, any of them',
      list(32, (i) => common(i + 40)),
      any,
    ),
    q(
      'common words, most of them',
      list(32, (i) => common(i + 80)),
      most,
    ),
    q('two common words, any of them', `${common(5)} ${common(6)}`, any),
    q('a phrase of two common words', `"${frequent(0)} ${frequent(1)}"`),
    q('a phrase of one common word twice', `"${frequent(0)} ${frequent(0)}"`),
    q('a phrase of thirty words', `"${list(30, (i) => frequent(i % 3))}"`),
    q(
      'phrases',
      list(15, (i) => `"${common(i)} ${common(i + 1)}"`),
    ),
    q(
      'phrases not wanted',
      list(15, (i) => `-"${common(i)} ${common(i + 2)}"`),
    ),
    q('quotes', '"'.repeat(500)),
    q('a long word', 'a'.repeat(500)),
    q(
      'minus signs',
      list(250, () => '-'),
    ),
    q('a letter, grouped', common(3)[0]!, grouped),
    { what: 'a letter, sorted', request: { q: common(4)[0]!, sort: 'price' }, tuning: sorted },
    filter('filter: one number', `price > ${30 + from / 8}`),
    filter('filter: texts of their own', `title LIKE '%${common(1)}%'`),
    filter('filter: a text of its own', `body = '${common(2)}'`),
    filter(
      'filter: any of many numbers',
      filled((i) => `stock=${(i + from) % 500}`, ' OR '),
    ),
    filter(
      'filter: many ends',
      filled((i) => `price<${i + from + 10}`, ' AND '),
    ),
    filter(
      'filter: pairs of values',
      filled((i) => `kind='kind ${(i + from) % 40}' AND colour='colour ${i % 12}'`, ' OR '),
    ),
    filter(
      'filter: patterns',
      filled((i) => `maker LIKE '%${i + from}%'`, ' OR '),
    ),
    filter(
      'filter: a list',
      `price IN (${filled((i) => `${i + from + 0.25}`, ',')
        .slice(0, 4000)
        .replace(/,[^,]*$/, '')})`,
    ),
    filter('filter: negations', `${'NOT '.repeat(60)}price > ${from + 3.5}`),
    filter(
      'filter: no values',
      filled((i) => `${['id', 'price', 'stock', 'kind'][i % 4]} IS NULL`, ' OR '),
    ),
    filter('filter: dates', `maker > DATE('2026-0${1 + (from % 9)}-01')`),
    {
      what: 'choices',
      request: {
        q: common(6)[0]!,
        select: { colour: [`colour ${from % 12}`], maker: list(1000, (i) => `maker ${i + from}`, '|').split('|') },
      },
    },
  ];
}
