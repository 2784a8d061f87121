/**
 * The reference: what a search means, written to be read and not to be fast. It walks every record for every query and
 * shares no code with the engine, not even the splitter of words; only the constants of the score are repeated.
 */
import type { RecordJson, SearchRequest, Tuning } from '@yucca/contract';

export interface ReferenceResult {
  id: string;
  typos: number;
  score: number;
  marks: Record<string, [number, number][]>;
}

export interface ReferenceAnswer {
  total: number;
  ids: string[];
  results: ReferenceResult[];
  facets: Record<string, { counts: Record<string, number>; missing: number }>;
}

interface Token {
  text: string;
  start: number;
  end: number;
}

interface FieldText {
  field: string;
  strings: { pointer: string; tokens: Token[] }[];
}

/** Folds a whole text; good for the plain Latin text the properties use. */
export function tokens(text: string): Token[] {
  const found: Token[] = [];
  for (const match of text.matchAll(
    /[\p{L}\p{N}][\p{L}\p{N}\u0300-\u036f]*(?:['’][\p{L}\p{N}][\p{L}\p{N}\u0300-\u036f]*)*/gu,
  )) {
    const folded = match[0]
      .toLowerCase()
      .normalize('NFD')
      .replace(/[\u0300-\u036f'’]/g, '')
      .replace(/ß/g, 'ss')
      .replace(/æ/g, 'ae')
      .replace(/ø/g, 'o');
    found.push({ text: folded, start: match.index, end: match.index + match[0].length });
  }
  return found;
}

/** Full-matrix distance with swaps of neighbours (optimal string alignment). */
export function distance(a: string, b: string): number {
  const d: number[][] = Array.from({ length: a.length + 1 }, (_, i) =>
    Array.from({ length: b.length + 1 }, (_, j) => (i === 0 ? j : j === 0 ? i : 0)),
  );
  for (let i = 1; i <= a.length; i++) {
    for (let j = 1; j <= b.length; j++) {
      const options = [d[i - 1]![j]! + 1, d[i]![j - 1]! + 1, d[i - 1]![j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)];
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) options.push(d[i - 2]![j - 2]! + 1);
      d[i]![j] = Math.min(...options);
    }
  }
  return d[a.length]![b.length]!;
}

interface Reading {
  typos: number;
  whole: boolean;
}

/** Every way a typed word may read a written one: as a whole, and as a beginning. */
function readings(typed: string, isLast: boolean, written: string, tuning: Tuning, exactField: boolean): Reading[] {
  const rules = tuning.typos;
  let allowed = typed.length >= rules.twoFrom ? 2 : typed.length >= rules.oneFrom ? 1 : 0;
  if (!rules.enabled || exactField || rules.exactWords.includes(typed)) allowed = 0;
  if (!rules.numbers && /[0-9]/.test(typed)) allowed = 0;
  const ok = (typos: number): boolean =>
    typos <= allowed && (typos === 0 || rules.firstLetter || typed[0] === written[0]);
  const found: Reading[] = [];
  const whole = distance(typed, written);
  if (ok(whole)) found.push({ typos: whole, whole: true });
  if (isLast) {
    let least = Infinity;
    for (let n = 1; n <= written.length; n++) least = Math.min(least, distance(typed, written.slice(0, n)));
    if (ok(least)) found.push({ typos: least, whole: false });
  }
  return found;
}

function stringsAt(value: unknown, path: string[], pointer: string): { pointer: string; text: string }[] {
  if (Array.isArray(value)) return value.flatMap((item, i) => stringsAt(item, path, `${pointer}/${i}`));
  if (path.length === 0)
    return ['string', 'number', 'boolean'].includes(typeof value) ? [{ pointer, text: String(value) }] : [];
  if (value === null || typeof value !== 'object') return [];
  const [head, ...rest] = path;
  return head! in value ? stringsAt((value as RecordJson)[head!], rest, `${pointer}/${head}`) : [];
}

function fieldTexts(record: RecordJson, tuning: Tuning): FieldText[] {
  return tuning.search.map(({ field }) => ({
    field,
    strings: stringsAt(record, field.split('.'), '').map(({ pointer, text }) => ({ pointer, tokens: tokens(text) })),
  }));
}

interface Best {
  typos: number;
  points: number;
  field: number;
  position: number;
  places: { pointer: string; token: Token; whole: boolean; typos: number }[];
}

function bestReading(
  typed: string,
  isLast: boolean,
  queryWords: number,
  texts: FieldText[],
  tuning: Tuning,
): Best | null {
  const heaviest = Math.max(...tuning.search.map(({ weight }) => weight));
  let best: Best | null = null;
  const places: Best['places'] = [];
  texts.forEach(({ field, strings }, fieldIndex) => {
    const fieldWords = Math.min(
      255,
      strings.reduce((sum, { tokens: list }) => sum + list.length, 0),
    );
    let offset = 0;
    const firstAt = new Map<string, number>();
    for (const { tokens: list } of strings) {
      list.forEach(({ text }, i) => {
        if (!firstAt.has(text)) firstAt.set(text, Math.min(1023, offset + i));
      });
      offset += list.length + 8;
    }
    for (const { pointer, tokens: list } of strings) {
      for (const token of list) {
        for (const { typos, whole } of readings(
          typed,
          isLast,
          token.text,
          tuning,
          tuning.typos.exactFields.includes(field),
        )) {
          places.push({ pointer, token, whole, typos });
          const position = firstAt.get(token.text)!;
          const trust = [1, 0.7, 0.5][typos]!;
          const form = whole ? trust : trust * (0.6 + 0.3 * Math.min(1, typed.length / token.text.length));
          const points =
            (tuning.search[fieldIndex]!.weight / heaviest) *
            form *
            (0.9 + 0.1 / (1 + position)) *
            (0.8 + 0.2 * Math.min(1, queryWords / Math.max(1, fieldWords)));
          const better =
            best === null ||
            typos < best.typos ||
            (typos === best.typos &&
              (points > best.points ||
                (points === best.points &&
                  (fieldIndex < best.field || (fieldIndex === best.field && position < best.position)))));
          if (better) best = { typos, points, field: fieldIndex, position, places };
        }
      }
    }
  });
  return best;
}

function telling(typed: string, isLast: boolean, records: RecordJson[], tuning: Tuning): number {
  // Postings: one for each word, record and field; a posting counts once for each way the typed word reads it. A
  // beginning is counted once more below a shorter beginning that is further away: the walk reports both.
  let asTyped = 0;
  for (const record of records) {
    for (const { strings } of fieldTexts(record, tuning)) {
      const distinct = new Set(strings.flatMap(({ tokens: list }) => list.map(({ text }) => text)));
      if (distinct.has(typed)) asTyped++;
    }
  }
  if (asTyped === 0) return Number.NaN;
  return Math.log(1 + (records.length + 1) / (Math.min(asTyped, records.length) + 0.5));
}

/** Answers a query over records in record order; every record is looked at. */
export function referenceSearch(records: RecordJson[], tuning: Tuning, request: SearchRequest): ReferenceAnswer {
  const q = request.q ?? '';
  const list = tokens(q).slice(0, 32);
  const lastIsOpen = list.length > 0 && list.at(-1)!.end === q.length;
  const tellings = list.map(({ text }, i) => telling(text, lastIsOpen && i === list.length - 1, records, tuning));
  const found: (ReferenceResult & { record: RecordJson; order: number })[] = [];
  records.forEach((record, order) => {
    const texts = fieldTexts(record, tuning);
    const bests = list.map(({ text }, i) =>
      bestReading(text, lastIsOpen && i === list.length - 1, list.length, texts, tuning),
    );
    if (bests.some((best) => best === null)) return;
    let closeness = 0;
    for (let i = 1; i < bests.length; i++) {
      const [a, b] = [bests[i - 1]!, bests[i]!];
      const step = b.position - a.position;
      closeness += a.field !== b.field ? 0 : step === 1 ? 1 : 1 / (1 + Math.abs(step));
    }
    const weightSum = tellings.reduce((sum, value) => sum + value, 0);
    const text = bests.reduce((sum, best, i) => sum + tellings[i]! * best!.points, 0);
    const close = list.length > 1 ? 0.8 + 0.2 * (closeness / (list.length - 1)) : 1;
    found.push({
      id: String(record.id),
      record,
      order,
      typos: bests.reduce((sum, best) => sum + best!.typos, 0),
      score: list.length === 0 ? 0 : Math.round(((100 * close * text) / weightSum) * 1000) / 1000,
      marks: marks(list, bests as Best[], texts),
    });
  });
  const kept = found.filter(({ record }) => tuning.facets.every((facet) => passes(record, facet, request)));
  kept.sort((a, b) => a.typos - b.typos || b.score - a.score || a.order - b.order);
  const facets: ReferenceAnswer['facets'] = {};
  for (const facet of tuning.facets) {
    const counts: Record<string, number> = {};
    let missing = 0;
    for (const { record } of found) {
      const others = tuning.facets.filter((other) => other !== facet || facet.match === 'all');
      if (!others.every((other) => passes(record, other, request))) continue;
      const values = new Set(
        stringsAt(record, facet.field.split('.'), '')
          .map(({ text }) => text)
          .filter(Boolean),
      );
      if (values.size === 0) missing++;
      for (const value of values) counts[value] = (counts[value] ?? 0) + 1;
    }
    facets[facet.name] = { counts, missing };
  }
  return { total: kept.length, ids: kept.map(({ id }) => id), results: kept, facets };
}

function passes(record: RecordJson, facet: Tuning['facets'][number], request: SearchRequest): boolean {
  const chosen = (request.select?.[facet.name] ?? []) as string[];
  if (chosen.length === 0) return true;
  const values = stringsAt(record, facet.field.split('.'), '').map(({ text }) => text);
  return facet.match === 'all'
    ? chosen.every((value) => values.includes(value))
    : chosen.some((value) => values.includes(value));
}

function marks(list: Token[], bests: Best[], texts: FieldText[]): ReferenceResult['marks'] {
  const covered = new Map<string, Set<number>>();
  const starts = new Map<string, Set<number>>();
  void texts;
  bests.forEach(({ places, typos }, i) => {
    const least = places.filter((place) => place.typos === typos);
    for (const { pointer, token } of least) {
      const wholeReading = least.some((place) => place.token === token && place.whole);
      const typedPart = typos === 0 && !wholeReading;
      const end = typedPart ? token.start + list[i]!.text.length : token.end;
      const set = covered.get(pointer) ?? new Set();
      covered.set(pointer, set);
      for (let at = token.start; at < end; at++) set.add(at);
      const first = starts.get(pointer) ?? new Set();
      starts.set(pointer, first.add(token.start));
    }
  });
  const ranges: ReferenceResult['marks'] = {};
  for (const [pointer, set] of covered) {
    const sorted = [...set].sort((a, b) => a - b);
    const joined: [number, number][] = [];
    for (const at of sorted) {
      const last = joined.at(-1);
      if (last && last[1] === at && !starts.get(pointer)!.has(at)) last[1] = at + 1;
      else joined.push([at, at + 1]);
    }
    ranges[pointer] = joined;
  }
  return ranges;
}
