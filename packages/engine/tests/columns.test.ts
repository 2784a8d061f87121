import { completeTuning, type RecordJson } from '@yucca/contract';
import { compareTexts, eachNumber, eachValue, firstNumber, LeafType } from '../src/columns/column.ts';
import { eachLabel } from '../src/columns/labels.ts';
import { nearestName } from '../src/filter/nearest-name.ts';
import { planFor, Segment, SegmentBuilder } from '../src/index.ts';

function segmentOf(records: RecordJson[], planned: string[] = []): Segment {
  const facets = planned.map((field) => ({ name: field, field }));
  const builder = new SegmentBuilder(planFor([completeTuning({ search: [{ field: 'name' }], facets })]));
  records.forEach((record, i) =>
    builder.add({ versionId: i + 5, order: i, key: `k${i}`, json: JSON.stringify(record) }),
  );
  return new Segment(builder.finish((bytes) => new ArrayBuffer(bytes)));
}

function textsOf(segment: Segment, path: string): string[][] {
  const column = segment.values(path);
  return Array.from({ length: segment.docs }, (_, doc) => {
    const texts: string[] = [];
    if (column) eachValue(column, doc, (value) => texts.push(column.text(value)));
    return texts;
  });
}

test('a column holds each text once, in the order without case and accents', () => {
  const segment = segmentOf([{ tag: ['b', 'Ä', 'b'] }, { tag: 'a' }, {}, { tag: ['a', ''] }], ['tag']);
  const column = segment.values('tag')!;
  expect(Array.from({ length: column.size }, (_, value) => column.text(value))).toEqual(['', 'a', 'Ä', 'b']);
  expect(textsOf(segment, 'tag')).toEqual([['b', 'Ä'], ['a'], [], ['a', '']]);
  expect(segment.values('nowhere')).toBeNull();
});

test('a column of single values and one of lists read alike', () => {
  const single = segmentOf([{ size: 'S' }, {}, { size: 'M' }], ['size']);
  expect(single.values('size')!.docStarts).toBeNull();
  expect(textsOf(single, 'size')).toEqual([['S'], [], ['M']]);
});

test('texts, numbers and truths that read alike are told apart by their types', () => {
  const segment = segmentOf([{ v: '1' }, { v: 1 }, { v: true }, { v: 'true' }, { v: '\u00001' }], ['v']);
  const column = segment.values('v')!;
  expect(textsOf(segment, 'v').flat()).toEqual(['1', '1', 'true', 'true', '\u00001']);
  const types = Array.from({ length: column.size }, (_, value) => [column.text(value), column.types[value]]);
  expect(types).toContainEqual(['1', LeafType.Number]);
  expect(types).toContainEqual(['1', LeafType.String]);
  expect(types).toContainEqual(['true', LeafType.Boolean]);
});

test('whole numbers take four bytes, others eight, several a record are kept in order', () => {
  const whole = segmentOf([{ n: 3 }, {}, { n: -7 }]).numbers('n')!;
  expect(whole.numbers).toBeInstanceOf(Int32Array);
  expect([0, 1, 2].map((doc) => firstNumber(whole, doc))).toEqual([3, Number.NaN, -7]);
  const broken = segmentOf([{ n: 2.5 }, { n: 'two' }, { n: 1e12 }]).numbers('n')!;
  expect(broken.numbers).toBeInstanceOf(Float64Array);
  expect([...broken.others!]).toEqual([1]);
  const lists = segmentOf([{ n: [4, 2] }, {}, { n: [9] }]).numbers('n')!;
  const seen: number[][] = [0, 1, 2].map((doc) => {
    const own: number[] = [];
    eachNumber(lists, doc, (number) => own.push(number));
    return own;
  });
  expect(seen).toEqual([[4, 2], [], [9]]);
  expect(segmentOf([{ n: -0 }, { n: 5 }]).numbers('n')!.numbers).toBeInstanceOf(Int32Array);
});

test('a field where every record has a text of its own has no column until one is asked for', () => {
  const records = Array.from({ length: 2_500 }, (_, i) => ({ note: `text ${i}`, kind: i % 2 ? 'a' : 'b' }));
  const segment = segmentOf(records);
  const meta = (path: string) => segment.meta.columns.find((column) => column.path === path)!;
  expect([meta('note').hasValues, meta('kind').hasValues]).toEqual([false, true]);
  expect(textsOf(segment, 'note')[1_234]).toEqual(['text 1234']);
  expect(segment.values('note')).toBe(segment.values('note'));
});

test('keys are found by their hash, all versions of them', () => {
  const segment = segmentOf(Array.from({ length: 300 }, () => ({})));
  for (let i = 0; i < 300; i++) expect(segment.docsOfKey(`k${i}`)).toEqual([i]);
  expect(segment.docsOfKey('k300')).toEqual([]);
  expect([5, 304, 305].map((versionId) => segment.docOfVersion(versionId))).toEqual([0, 299, -1]);
  expect(segment.order(7)).toBe(7);
});

test('labels stand beside their ids, in lists of objects and in lists beside each other', () => {
  const pairs = (record: RecordJson, field: string, labelField: string): string[] => {
    const found: string[] = [];
    eachLabel(record, field, labelField, (value, label) => found.push(`${value}=${label}`));
    return found;
  };
  const makers = [{ id: 1, name: 'One' }, { id: 2 }, { id: 3, name: 'Three' }];
  expect(pairs({ makers }, 'makers.id', 'makers.name')).toEqual(['1=One', '3=Three']);
  expect(pairs({ ids: ['a', 'b'], names: ['A', 'B'] }, 'ids', 'names')).toEqual(['a=A', 'b=B']);
  expect(pairs({ maker: { id: 'x', name: '' } }, 'maker.id', 'maker.name')).toEqual([]);
});

test('texts compare without case and accents first', () => {
  expect(['b', 'Äa', 'ab', 'AB', ''].sort(compareTexts)).toEqual(['', 'Äa', 'AB', 'ab', 'b']);
});

test('the nearest name is told, if one is near', () => {
  expect(nearestName('colr', ['name', 'colour', 'color'])).toBe('color');
  expect(nearestName('prcie', ['price'])).toBe('price');
  expect(nearestName('zzz', ['price'])).toBeNull();
});
