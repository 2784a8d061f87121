import type { Card, SearchResult } from '@yucca/contract';
import { shownHit } from '../src/index.ts';

const card: Card = { title: 'name', picture: 'images', text: 'care', number: 'price', detail: 'maker.name' };
const result = (record: SearchResult['record'], marks: SearchResult['marks'] = {}): SearchResult => ({
  id: 'P-1',
  record,
  marks,
  snippets: {},
});

test('a card shows the fields it was guessed to have, with their marks', () => {
  const hit = shownHit(
    result(
      { name: 'Red rose', images: ['/a.svg'], care: 'Sun', price: 3, maker: [{ name: 'Orme' }] },
      { '/name': [[4, 8]], '/maker/0/name': [[0, 4]] },
    ),
    card,
  );
  expect(hit).toEqual({
    id: 'P-1',
    title: { pointer: '/name', text: 'Red rose', ranges: [[4, 8]] },
    picture: '/a.svg',
    thumbnail: '/a.svg',
    detail: { pointer: '/maker/0/name', text: 'Orme', ranges: [[0, 4]] },
    second: null,
    text: { pointer: '/care', text: 'Sun', ranges: [] },
    number: { label: 'Price', value: 3 },
    elsewhere: null,
  });
});

test('only a picture in the folder of a Yucca server has smaller ones', () => {
  const shown = (picture: string) => shownHit(result({ images: [picture] }), card, 'https://yucca.example');
  expect(shown('/files/p/rose.jpg')).toMatchObject({
    picture: 'https://yucca.example/files/p/rose.jpg',
    smaller: [160, 240, 320, 640].map((w) => `https://yucca.example/files/p/rose.jpg?width=${w} ${w}w`).join(),
  });
  expect(shown('/files/p/rose.jpg').thumbnail).toBe('https://yucca.example/files/p/rose.jpg?width=160');
  const others = [
    'https://shop.example/files/1.jpg',
    '/p/1.jpg',
    '//x/files/1.jpg',
    '/files/a,b.jpg',
    '/files/a b.jpg',
  ];
  for (const other of [...others, '/files/1.jpg?v=2', '/files/'])
    expect([shown(other).smaller, shown(other).thumbnail]).toEqual([undefined, shown(other).picture]);
  expect(shownHit(result({}), card).thumbnail).toBeNull();
});

test('a number that was before is told where it was greater', () => {
  const before = (price: unknown, was: unknown) =>
    shownHit(result({ name: 'Rose', price, was } as SearchResult['record']), { ...card, former: 'was' }).number;
  expect(before(3, 5)).toEqual({ label: 'Price', value: 3, former: 5 });
  for (const was of [3, 2, null, '5']) expect(before(3, was)).toEqual({ label: 'Price', value: 3 });
  expect(before('3', 5)).toBeNull();
});

test('a match in a field that is not on the card is shown, so that nobody wonders', () => {
  const hit = shownHit(result({ name: 'Rose', tags: ['soft', 'thorny'] }, { '/tags/1': [[0, 6]] }), card);
  expect(hit.elsewhere).toEqual({ label: 'Tags', text: 'thorny', ranges: [[0, 6]] });
});

test('a record without any of the fields is called by its key', () => {
  expect(shownHit(result({ x: 1 }), card)).toMatchObject({
    title: { text: 'P-1' },
    picture: null,
    text: null,
    number: null,
  });
});

test('a member whose own name holds a dot is found, and so is one in a list', () => {
  const dotted: Card = { title: 'name.common', picture: null, text: 'a.b.c', number: 'price.net', detail: null };
  const record = { 'name.common': 'Fern', a: [{ 'b.c': 'one' }, { 'b.c': 'two' }], price: { net: 4 } };
  expect(shownHit(result(record, { '/a/1/b.c': [[0, 3]] }), dotted)).toMatchObject({
    title: { text: 'Fern', pointer: '/name.common' },
    text: { text: 'two', pointer: '/a/1/b.c', ranges: [[0, 3]] },
    number: { value: 4 },
  });
});
