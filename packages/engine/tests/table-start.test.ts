import { tableStart } from '../src/understand/index.ts';

const lines = (...all: string[]): string => `${all.join('\n')}\n`;

test.each<[string, string, object]>([
  ['a plain table', lines('id,name', '1,Agave', '2,Yarrow'), { separator: ',', skip: 0, comment: null }],
  ['a header alone', lines('id,name'), { separator: ',', skip: 0 }],
  ['one column', lines('name', 'Agave', 'Yarrow'), { separator: ',', skip: 0 }],
  ['a said separator', lines('sep=;', 'id;name', '1;Agave, tall'), { separator: ';', skip: 1 }],
  ['a said tab', lines('"sep=\t"', 'id\tname', '1\tAgave'), { separator: '\t', skip: 1 }],
  [
    'lines above the header',
    lines('Plants of the nursery', '', 'Made in May, by Orme', 'id,name,price', '1,Agave,3', '2,Yarrow,4', '3,Fern,5'),
    { separator: ',', skip: 3 },
  ],
  [
    'lines above a header with another separator',
    lines('Stock, by house', 'id;name;price', '1;Agave;3,5', '2;Yarrow;4,5'),
    { separator: ';', skip: 1 },
  ],
  ['comments', lines('# made in May', '# by Orme', 'id,name', '1,Agave'), { skip: 2, comment: '#' }],
  ['a header that is a comment', lines('# id\tname\tn', '1\tAgave\t2', '2\tYarrow\t3'), { separator: '\t', skip: 0, comment: null, isCommented: true }], // prettier-ignore
  ['rows with one more separator', lines('id;name', '1;Agave;', '2;Yarrow;'), { separator: ';', hasOpenRows: true }],
  ['a header with one more as well', lines('id;name;', '1;Agave;', '2;Yarrow;'), { hasOpenRows: false }],
  ['lines inside quotes', lines('id,note', '1,"one', 'two, three"', '2,"a ""b"" c"'), { separator: ',', skip: 0 }],
  [
    'quotes inside cells with lines',
    lines('Stock', 'id;note', '1;"""a""', 'b, c"', '2;"d"""', '3;e'),
    { separator: ';', skip: 1 },
  ],
  ['one short row', lines('id,name,n', '1,Agave', '2,Yarrow,3', '3,Fern,4', '4,Rose,5', '5,Iris,6', '6,Sage,7'), { skip: 0 }], // prettier-ignore
  ['rows that agree on nothing', lines('id,name', '1', '2,3,4', '5,6,7,8'), { separator: ',', skip: 0 }],
])('%s', (_, text, expected) => {
  expect(tableStart(text)).toMatchObject(expected);
  expect(tableStart(`\ufeff${text.replaceAll('\n', '\r\n')}`)).toMatchObject(expected);
});

test('a header in the line that somebody says', () => {
  const text = lines('# made in May', 'Stock, by bed', 'id,name', '# a comment', '1,Agave');
  expect(tableStart(text, 3)).toMatchObject({ skip: 2, fromLine: 2, comment: '#', header: ['id', 'name'] });
  expect(tableStart(lines('a,b', 'id,name', '1,Agave'), 2)).toMatchObject({ skip: 1, fromLine: 2, comment: null });
  expect(tableStart(lines('Stock', 'id,name', '1,Agave'), 1)).toMatchObject({ skip: 0, fromLine: 1 });
});
