import type { SearchResult } from '@yucca/contract';
import { shownCell } from '../src/shown-cell.ts';
import { textsOf } from '../src/texts/index.ts';

const card = { title: 'name', picture: 'picture', text: null, detail: null, number: null };
const formats = { price: { currency: 'EUR' }, size: { unit: 'cm' } };
const record = {
  id: 'P-1',
  name: 'Musk rose',
  picture: '/files/p1.jpg',
  price: 17.5,
  size: 120,
  safe: true,
  thorny: false,
  colours: ['white', 'pink'],
  care: { text: 'Give it sun.' },
  parts: [{ a: 1 }, { a: 2 }],
  empty: '',
};
const result: SearchResult = {
  ...{ id: 'P-1', record, snippets: {} },
  marks: { '/name': [[5, 9]] },
};
const cell = (field: string) => shownCell(result, field, { card, formats }, textsOf(), 'https://shop.example');
const text = (words: string) => ({ text: words, ranges: [] });

test.each([
  ['name', { text: 'Musk rose', ranges: [[5, 9]] }],
  ['care.text', text('Give it sun.')],
  ['price', { figure: '€17.50' }],
  ['size', { figure: '120\u00a0cm' }],
  ['safe', text('✓')],
  ['thorny', text('–')],
  ['colours', text('white, pink')],
  ['parts', text('–')],
  ['empty', text('–')],
  ['nowhere', text('–')],
  ['picture', { picture: 'https://shop.example/files/p1.jpg?width=160' }],
])('%s', (field, shown) => {
  expect(cell(field)).toMatchObject(shown);
});

test('a picture that is none of the card’s is its address', () => {
  expect(shownCell(result, 'picture', { card: { ...card, picture: null } }, textsOf())).toMatchObject(
    text('/files/p1.jpg'),
  );
});
