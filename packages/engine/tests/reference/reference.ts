/**
 * The reference: what a search means, written to be read and not to be fast. It walks every record for every query and
 * shares no code with the engine, not even the splitter of words; only the constants of the score are repeated.
 */
import type { RecordJson, SearchRequest, SignalRule, Tuning } from '@yucca/contract';
import { countFacet, passes, type ReferenceFacet } from './facets.ts';
import { decide, type ReferenceCondition } from './filter.ts';
import { findWord, textsOf, together, understand, valuesAt, wholeClass, type Asked, type Found } from './match.ts';

export { distance } from './text.ts';

export interface ReferenceResult {
  id: string;
  words: number;
  typos: number;
  score: number;
  signals: number;
  marks: Record<string, [number, number][]>;
}

export interface ReferenceAnswer {
  total: number;
  results: ReferenceResult[];
  facets: Record<string, ReferenceFacet>;
  dropped: string[];
}

export interface ReferenceRequest extends Omit<SearchRequest, 'filter'> {
  condition?: ReferenceCondition | undefined;
  lift?: ReferenceCondition | undefined;
  sink?: ReferenceCondition | undefined;
  hide?: string[] | undefined;
  pins?: { id: string; at: number }[] | undefined;
}

interface Row {
  record: RecordJson;
  order: number;
  found: (Found | null)[];
}

const round = (value: number): number => Math.round(value * 1000) / 1000;

/** Answers a query over records in record order; every record is looked at. */
export function referenceSearch(records: RecordJson[], tuning: Tuning, request: ReferenceRequest): ReferenceAnswer {
  const known = new Set(
    records.flatMap((record) => textsOf(record, tuning).flatMap(({ list }) => list.map(({ text }) => text))),
  );
  const { asked, excluded } = understand(request.q ?? '', tuning, known);
  const lookThrough = (): Row[] =>
    records.map((record, order): Row => {
      const texts = textsOf(record, tuning);
      return { record, order, found: asked.map((word) => findWord(word, texts, tuning, asked.length)) };
    });
  const tried = lookThrough();
  asked.forEach((word, i) => {
    if (!word.prefix || word.text.length >= tuning.typos.twoFrom) return;
    const asTyped = tried.filter(({ found }) => found[i]?.typos === 0).length;
    const all = tried.filter(({ found }) => found[i] !== null).length;
    // More strangers than what was typed: an unfinished word takes no typos then.
    if (asTyped > 0 && all - asTyped > asTyped) word.noTypos = true;
  });
  const rows = lookThrough();
  const idfs = asked.map((word, i) => idf(word, rows, i, tuning));
  const isWordless = asked.length === 0 && excluded.length === 0 && !/^[\s"-]*$/.test(request.q ?? '');
  const allowed = rows.filter(({ record }) => {
    const texts = textsOf(record, tuning);
    const forbidden = excluded.some((words) => texts.some((text) => together(text, words).length > 0));
    return !isWordless && !forbidden && (request.condition === undefined || decide(record, request.condition) === true);
  });
  const { matching, dropped } = choose(allowed, asked, idfs, tuning, request);
  const kept = matching.filter(({ record }) => tuning.facets.every((facet) => passes(record, facet, request)));
  const signals = signalsOf(records, tuning);
  const keyFields = keysOf(records);
  const results = kept.map((row) => {
    const found = row.found.filter((one) => one !== null);
    const own = signals[row.order]!;
    const text = textScore(row.found, idfs);
    const share = tuning.signals.length === 0 ? 0 : tuning.signalShare;
    return {
      row,
      lift: liftOf(row.record, request),
      whole: wholeClass(textsOf(row.record, tuning), request.q ?? '', tuning, keyFields),
      id: String(row.record.id),
      words: found.length,
      typos: found.reduce((sum, { typos }) => sum + typos, 0),
      signals: own,
      score: tuning.signals.length === 0 ? text : round((1 - share) * text + share * own),
      marks: joinMarks(found),
    };
  });
  const byRelevance = (a: (typeof results)[number], b: (typeof results)[number]): number =>
    b.words - a.words ||
    a.typos - b.typos ||
    a.lift - b.lift ||
    a.whole - b.whole ||
    b.score - a.score ||
    b.signals - a.signals ||
    a.row.order - b.row.order;
  results.sort((a, b) => compareSorted(a.row.record, b.row.record, tuning, request) || byRelevance(a, b));
  const facets = Object.fromEntries(
    tuning.facets.map((facet) => [
      facet.name,
      countFacet(
        matching.map(({ record }) => record),
        facet,
        tuning.facets,
        request,
      ),
    ]),
  );
  const shown = withPins(results, tuning, request);
  return { total: shown.length, results: shown, facets, dropped };
}

/** Fields that hold the key of every record; `id` is the key. */
function keysOf(records: RecordJson[]): string[] {
  return Object.keys(records[0] ?? {}).filter((name) => records.every((record) => record[name] === String(record.id)));
}

function idf(word: Asked, rows: Row[], index: number, tuning: Tuning): number {
  const asWritten = rows.filter(({ record }) => {
    const words = word.phrase ?? [word.text];
    return textsOf(record, tuning).some((text) => together(text, words).length > 0);
  }).length;
  const found = asWritten > 0 ? asWritten : rows.filter((row) => row.found[index] !== null).length;
  return Math.log(1 + (rows.length + 1) / (Math.min(found, rows.length) + 0.5));
}

/** Which records match, and which words were given up for it. */
function choose(
  rows: Row[],
  asked: Asked[],
  idfs: number[],
  tuning: Tuning,
  request: ReferenceRequest,
): { matching: Row[]; dropped: string[] } {
  let required = asked.map((_, i) => i).filter((i) => !asked[i]!.optional);
  if (tuning.words.require === 'any') required = [];
  const dropped: string[] = [];
  for (;;) {
    const matching = rows.filter(
      ({ found, record }) =>
        !request.hide?.includes(String(record.id)) &&
        (asked.length === 0 ||
          (required.length > 0 ? required.every((i) => found[i] !== null) : found.some((one) => one !== null)) ||
          (request.sort === undefined && request.pins?.some(({ id }) => id === record.id))),
    );
    const shown = matching.filter(({ record }) => tuning.facets.every((facet) => passes(record, facet, request)));
    if (tuning.words.require !== 'most' || shown.length > 0 || required.length <= 1) return { matching, dropped };
    const absent = required.filter((i) => rows.every(({ found }) => found[i] === null));
    const least = (absent.length > 0 ? absent : required).reduce((a, b) => (idfs[b]! < idfs[a]! ? b : a));
    required = required.filter((i) => i !== least);
    dropped.push(asked[least]!.text);
  }
}

function textScore(found: (Found | null)[], idfs: number[]): number {
  if (found.length === 0) return 0;
  let [text, closeness, last] = [0, 0, -1];
  found.forEach((one, i) => {
    if (one === null) return;
    text += idfs[i]! * one.points;
    if (last !== -1 && last >> 10 === one.place >> 10) {
      const step = (one.place & 1023) - (last & 1023);
      closeness += step === 1 ? 1 : 1 / (1 + Math.abs(step));
    }
    last = one.place;
  });
  const close = found.length > 1 ? 0.8 + 0.2 * (closeness / (found.length - 1)) : 1;
  const total = idfs.reduce((sum, weight) => sum + weight, 0);
  return round((100 * close * text) / (total * 65535));
}

function signalsOf(records: RecordJson[], tuning: Tuning): number[] {
  const total = tuning.signals.reduce((sum, { weight }) => sum + weight, 0);
  const sums = records.map(() => 0);
  for (const rule of tuning.signals) {
    const numbers = records.map((record) => {
      const first = valuesAt(record, rule.field.split('.')).find(({ value }) => typeof value === 'number');
      return (first?.value as number | undefined) ?? null;
    });
    const present = numbers.filter((number) => number !== null);
    const [min, max] = [Math.min(...present), Math.max(...present)];
    numbers.forEach((number, i) => {
      if (number !== null) sums[i]! += (rule.weight / total) * shape(rule, number, min, max);
    });
  }
  return sums.map((sum) => round(100 * sum));
}

function shape({ shape: kind, order }: SignalRule, number: number, min: number, max: number): number {
  const even = max > min ? (number - min) / (max - min) : 1;
  const log = max > min ? Math.log1p(number - min) / Math.log1p(max - min) : 1;
  const high = kind === 'log' ? log : even;
  return order === 'desc' ? high : 1 - high;
}

function liftOf(record: RecordJson, { lift, sink }: ReferenceRequest): number {
  if (lift !== undefined && decide(record, lift) === true) return 0;
  return sink !== undefined && decide(record, sink) === true ? 2 : 1;
}

function compareSorted(a: RecordJson, b: RecordJson, tuning: Tuning, { sort }: ReferenceRequest): number {
  for (const { field, order } of tuning.sorts.find(({ name }) => name === sort)?.by ?? []) {
    const [x, y] = [a, b].map((record) => valuesAt(record, [field])[0]?.value as number | string | undefined);
    if (x === y) continue;
    if (x === undefined) return 1;
    if (y === undefined) return -1;
    const less = typeof x === 'string' ? key(x) < key(String(y)) : x < (y as number);
    return less === (order === 'asc') ? -1 : 1;
  }
  return 0;
}

const key = (text: string): string => `${text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()}\u0000${text}`;

/**
 * Pinned records at their ranks among the others; of each family no more than it may show, those that are pinned
 * counted.
 */
function withPins<R extends { id: string; row: Row }>(
  results: R[],
  tuning: Tuning,
  { pins, sort }: ReferenceRequest,
): R[] {
  const pinned = sort === undefined ? [...(pins ?? [])].sort((a, b) => a.at - b.at) : [];
  const standing = pinned.flatMap(({ id, at }) =>
    results.filter((one) => one.id === id).map((result) => ({ result, at })),
  );
  const shownOf = new Map<string, number>();
  const family = ({ row, id }: R): string => {
    const value = tuning.group === null ? undefined : valuesAt(row.record, tuning.group.field.split('.'))[0]?.value;
    return value === undefined ? `alone ${id}` : `of ${String(value)}`;
  };
  const count = (result: R): number => {
    shownOf.set(family(result), (shownOf.get(family(result)) ?? 0) + 1);
    return shownOf.get(family(result))!;
  };
  for (const { result } of standing) count(result);
  const keep = tuning.group?.keep ?? Infinity;
  const rest = results.filter((one) => !standing.some(({ result }) => result === one) && count(one) <= keep);
  for (const { result, at } of standing) rest.splice(Math.min(at - 1, rest.length), 0, result);
  return rest;
}

function joinMarks(found: Found[]): ReferenceResult['marks'] {
  const byPointer = new Map<string, [number, number][]>();
  for (const { pointer, start, end } of found.flatMap(({ marks }) => marks)) {
    const list = byPointer.get(pointer) ?? [];
    byPointer.set(pointer, [...list, [start, end]]);
  }
  const joined = [...byPointer].map(([pointer, ranges]): [string, [number, number][]] => {
    ranges.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
    const kept: [number, number][] = [];
    for (const [start, end] of ranges) {
      const last = kept.at(-1);
      if (last && start < last[1]) last[1] = Math.max(last[1], end);
      else kept.push([start, end]);
    }
    return [pointer, kept];
  });
  return Object.fromEntries(joined);
}
