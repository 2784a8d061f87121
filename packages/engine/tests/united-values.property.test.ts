import { completeTuning, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import type { ValueColumn } from '../src/columns/column.ts';
import { uniteValues } from '../src/columns/united-values.ts';
import { generationOf, runs } from './arbitraries.ts';

const value = fc.oneof(
  fc.constantFrom<string | number | boolean>('', 'rose', 'Rose', 'Ümlaut', '🌵', 1, '1', true, 'true'),
  fc.string({ maxLength: 3 }),
);
const tuning = completeTuning({ facets: [{ name: 'v', field: 'v', labelField: 'label' }] });
const columnsOf = (values: readonly unknown[], cuts: readonly number[]): ValueColumn[] =>
  generationOf(
    values.map((v, i) => ({ id: `r${i}`, v, ...(i % 2 ? {} : { label: `called ${String(v)}` }) }) as RecordJson),
    tuning,
    [...cuts],
  ).segments.flatMap(({ segment }) => segment.values('v') ?? []);

test('columns numbered as one: a text has one number, whichever column it comes from', () => {
  fc.assert(
    fc.property(
      fc.array(value, { minLength: 1, maxLength: 60 }),
      fc.array(fc.integer({ min: 1, max: 60 }), { maxLength: 4 }),
      (values, cuts) => {
        const columns = columnsOf(values, cuts);
        const united = uniteValues(columns);
        const numberOf = new Map<string, number>();
        columns.forEach((column, i) => {
          for (let own = 0; own < column.size; own++) {
            const number = united.numbers[i]?.[own] ?? own;
            expect(united.text(number)).toBe(column.text(own));
            // Within the first column a number and a text that read alike are two values, as they are there.
            if (i > 0) expect(number).toBe(numberOf.get(column.text(own)) ?? number);
            if (!numberOf.has(column.text(own))) numberOf.set(column.text(own), number);
          }
        });
        for (const [text, number] of numberOf) {
          expect(united.find(new Set([text]))).toContain(number);
          const labels = columns.flatMap((column) =>
            column.find(new Set([text])).flatMap((own) => column.label(own) ?? []),
          );
          expect(united.label(number) === null).toBe(labels.length === 0);
          if (labels.length > 0) expect(united.label(number)).toBe(`called ${text}`);
        }
        expect(united.find(new Set(['no such text']))).toEqual([]);
        expect(united.inOrder).toBe(columns[0]!.size);
        expect(uniteValues(columns)).toBe(united);
      },
    ),
    runs(200),
  );
});
