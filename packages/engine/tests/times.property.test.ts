import { completeTuning } from '@yucca/contract';
import fc from 'fast-check';
import { parseDate, timesOf } from '../src/columns/times.ts';
import { search } from '../src/index.ts';
import { generationOf, runs } from './arbitraries.ts';

const two = (from: number, to: number) => fc.integer({ min: from, max: to }).map((n) => String(n).padStart(2, '0'));
const year = fc.integer({ min: 0, max: 9_999 }).map((n) => String(n).padStart(4, '0'));
// Some that are in no calendar, and some that are no dates.
const date = fc.tuple(year, two(0, 13), two(0, 32)).map((parts) => parts.join('-'));
const time = fc.tuple(two(0, 24), two(0, 60), two(0, 60)).map((parts) => parts.join(':'));
const text = fc.oneof(
  date,
  fc.tuple(date, time).map(([day, at]) => `${day}T${at}Z`),
  fc.tuple(date, time, fc.nat(999)).map(([day, at, ms]) => `${day}T${at}.${String(ms).padStart(3, '0')}Z`),
  fc.tuple(date, time, fc.constantFrom('', '+02:00', '-1130', '.5Z', 'z', '.12aZ')).map(([day, at, zone]) => `${day}T${at}${zone}`),
  fc.tuple(date, time).map(([day, at]) => `${day} ${at}Z`),
  fc.constantFrom('2024-02-29', '2023-02-29', '2026-05', '2026', 'ten letter', '2026_05_04', '1900-02-29', '0000-02-28'),
); // prettier-ignore

test('the times of a column are those of its texts, however they are written', () => {
  fc.assert(
    fc.property(fc.array(text, { minLength: 1, maxLength: 30 }), (texts) => {
      const tuning = completeTuning({ facets: [{ name: 'd', field: 'd', kind: 'dates' }] });
      const { segment } = generationOf(texts.map((d, i) => ({ id: `r${i}`, d })), tuning).segments[0]!; // prettier-ignore
      const column = segment.values('d')!;
      expect([...timesOf(column)]).toEqual(Array.from({ length: column.size }, (_, i) => parseDate(column.text(i))));
    }),
    runs(300),
  );
});

test('a condition on times of which every record has its own is answered, and counts as their texts say', () => {
  const records = Array.from({ length: 30_000 }, (_, i) => ({
    id: `r${i}`,
    seen: new Date(Date.UTC(2025, 0, 1) + i * 61_000).toISOString(),
  }));
  const tuning = completeTuning({ facets: [{ name: 'seen', field: 'seen', kind: 'dates', by: 'month' }] });
  const generation = generationOf(records, tuning);
  const ask = (filter: string): number => search(generation, tuning, { filter }).total;
  const count = (is: (seen: string) => boolean): number => records.filter(({ seen }) => is(seen)).length;
  expect(ask("seen >= TIMESTAMP('2025-01-09T00:00:00Z')")).toBe(count((seen) => seen >= '2025-01-09'));
  expect(ask("seen BETWEEN DATE('2025-01-03') AND DATE('2025-01-05')")).toBe(
    count((seen) => seen >= '2025-01-03' && seen < '2025-01-06'),
  );
  expect(ask("seen <> DATE('2025-01-03')")).toBe(count((seen) => !seen.startsWith('2025-01-03')));
  expect(ask("NOT seen < TIMESTAMP('2025-01-09T00:00:00Z')")).toBe(count((seen) => seen >= '2025-01-09'));
});
