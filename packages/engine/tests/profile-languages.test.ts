/** Which fields the profile takes for texts of a language, and which for what tells one. */
import type { RecordJson } from '@yucca/contract';
import { Profiler } from '../src/profile/index.ts';

function proposed(list: RecordJson[]): Record<string, string[]> {
  const profiler = new Profiler('id');
  for (const record of list) profiler.add(record);
  return Object.fromEntries(
    profiler
      .finish()
      .fields.flatMap(({ path, proposal: { language } }) =>
        language ? [[`${language.of} ${path}`, language.languages]] : [],
      ),
  );
}

const rows = (of: (i: number) => RecordJson): RecordJson[] =>
  Array.from({ length: 40 }, (_, i) => ({ id: `p${i}`, ...of(i) }));
const name = (i: number): string => `${['Rose', 'Fern', 'Aloe'][i % 3]} number ${i}`;

test.each([
  ['a name and its translation', { title: name, title_de: name }, { 'texts title_de': ['de'] }],
  [
    'a level for each',
    { name: (i: number) => ({ en: name(i), fr: name(i) }) },
    { 'texts name.en': ['en'], 'texts name.fr': ['fr'] },
  ],
  ['capitals', { titleDe: name, titleEn: name }, { 'texts titleDe': ['de'], 'texts titleEn': ['en'] }],
  [
    'a tag that is a word as well, beside another',
    { name_no: name, name_sv: name },
    { 'texts name_no': ['no'], 'texts name_sv': ['sv'] },
  ],
  ['a number of a part', { part: name, part_no: (i: number) => `A-${i}` }, {}],
  ['a name that ends so and stands alone', { made_de: name }, {}],
  ['brackets', { title: name, 'title (nl)': name }, { 'texts title (nl)': ['nl'] }],
  ['names without a letter', { '%': name, '…': name }, {}],
  ['no texts', { size: (i: number) => i, size_de: (i: number) => i }, {}],
])('%s', (_, fields, expected) => {
  expect(
    proposed(rows((i) => Object.fromEntries(Object.entries(fields).map(([path, of]) => [path, of(i)])) as RecordJson)),
  ).toEqual(expected);
});

test.each([
  ['tags', 'lang', ['de', 'fr', 'en'], ['de', 'fr', 'en']],
  ['countries beside them', 'locale', ['de-AT', 'de-CH', 'fr_FR'], ['de', 'fr']],
  ['one language alone', 'language', ['de'], null],
  ['none that has rules', 'language', ['zh', 'ja'], null],
  ['names in words', 'language', ['German', 'French'], null],
  ['what names no language', 'locale', ['north', 'south'], null],
  ['countries under another name', 'country', ['de', 'fr', 'it'], null],
])('of records: %s', (_, field, values, expected) => {
  const found = proposed(rows((i) => ({ title: name(i), [field]: values[i % values.length]! })));
  expect(Object.values(found).map((list) => [...list].sort())).toEqual(expected === null ? [] : [[...expected].sort()]);
});
