import fc from 'fast-check';
import type { Page, RecordJson } from '@yucca/contract';
import { valuesAt } from '@yucca/contract';
import { columnsOf } from '../src/features/records/columns';
import { mergePatchBetween } from '../src/features/records/merge-patch';
import { PAGE, RecordPages } from '../src/features/records/record-pages';
import { applyMergePatch } from '../src/server/records/merge-patch';

const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

describe('the patch between two records', () => {
  const json = fc.jsonValue({ maxDepth: 3 }).filter((value) => !JSON.stringify(value).includes('null'));
  const record = fc.dictionary(fc.string({ maxLength: 3 }), json, { maxKeys: 4 });

  test('applied to the one it gives the other', () => {
    fc.assert(
      fc.property(record, record, (before, after) => {
        const patch = mergePatchBetween(before, after);
        expect(JSON.parse(JSON.stringify(applyMergePatch(before, patch)))).toEqual(JSON.parse(JSON.stringify(after)));
      }),
    );
  });

  test('it says no more than what has changed, and none can write null', () => {
    expect(mergePatchBetween({ a: 1, b: { c: 2, d: 3 }, e: [1] }, { a: 1, b: { c: 2, d: 4 }, f: 5 })).toEqual({
      e: null,
      b: { d: 4 },
      f: 5,
    });
    expect(mergePatchBetween({ a: 1 }, { a: 1 })).toEqual({});
    expect(mergePatchBetween({ a: 1 }, { a: null })).toBeUndefined();
    expect(mergePatchBetween({ a: null, b: 1 }, { a: null, b: 2 })).toEqual({ b: 2 });
  });
});

describe('the pages of a long table', () => {
  const pageOf = (page: number, total = 1000): Page<RecordJson> => ({
    items: Array.from({ length: PAGE }, (_, i) => ({ id: (page - 1) * PAGE + i })),
    total,
    page,
    pages: total / PAGE,
    size: PAGE,
  });

  test('rows on screen are fetched once; pages scrolled past are given up', async () => {
    const asked: { page: number; signal: AbortSignal }[] = [];
    const pages = new RecordPages((page, signal) => {
      asked.push({ page, signal });
      return new Promise((resolve) => setTimeout(() => resolve(pageOf(page)), 5));
    }, pageOf(1));
    pages.look(0, 30);
    expect(asked).toEqual([]);
    pages.look(150, 190);
    pages.look(450, 520);
    pages.look(450, 520);
    expect(asked.map(({ page }) => page)).toEqual([2, 5, 6]);
    expect(asked.map(({ signal }) => signal.aborted)).toEqual([true, false, false]);
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect([pages.snapshot().at(450), pages.snapshot().at(599), pages.snapshot().at(150)]).toEqual([
      { id: 450 },
      { id: 599 },
      undefined,
    ]);
  });

  test('a failure is told and a later page heals it', async () => {
    let fail = true;
    const pages = new RecordPages(
      (page) => (fail ? Promise.reject(new Error('unknown field')) : Promise.resolve(pageOf(page))),
      null,
    );
    pages.look(0, 0);
    await settle();
    expect(pages.snapshot()).toMatchObject({ problem: 'unknown field', total: 0 });
    fail = false;
    pages.renew();
    await settle();
    expect(pages.snapshot()).toMatchObject({ problem: null, total: 1000 });
  });
});

test('columns: the key, what the card shows, then short fields; values at dotted paths', () => {
  const record = {
    id: 'a',
    name: 'Rose',
    long: 'x'.repeat(90),
    price: 3,
    kind: 'shrub',
    'a.b': 1,
    makers: [{ name: 'M' }, { name: 'N' }],
  };
  const card = { title: 'name', picture: null, text: 'long', number: 'price', detail: null };
  expect(columnsOf([record], 'id', card)).toEqual(['id', 'name', 'price', 'kind', 'a.b', 'makers']);
  expect([valuesAt(record, 'makers.name'), valuesAt(record, 'a.b'), valuesAt(record, 'nothing.here')]).toEqual([
    ['M', 'N'],
    1,
    undefined,
  ]);
});
