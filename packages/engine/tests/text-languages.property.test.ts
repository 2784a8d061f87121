/** Languages by field and by record: what depends on a language reaches its own texts alone, in the reference too. */
import { completeTuning, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { covers, planFor, search } from '../src/index.ts';
import { generationOf, runs } from './arbitraries.ts';
import { referenceSearch } from './reference/reference.ts';

const WORDS = [
  ...['gift', 'gifts', 'Gifte', 'Rose', 'Rosen', 'roses', 'rose', 'Garten', 'Gärten', 'gaerten', 'Gartenschere'],
  ...['Schere', 'Scheren', 'fleur', 'fleurs', 'fleurir', 'Töpfe', 'toepfe', 'Topf', 'banks', 'bank', 'Banken'],
];
const text = fc.array(fc.constantFrom(...WORDS), { maxLength: 4 }).map((list) => list.join(' '));
const records = fc
  .array(
    fc.record(
      { name: text, name_de: text, care: text, lang: fc.constantFrom('de', 'DE-AT', 'fr', 'en', 'xx') },
      { requiredKeys: ['name', 'care'] },
    ),
    { minLength: 1, maxLength: 8 },
  )
  .map((list) => list.map((fields, i): RecordJson => ({ id: `r${i}`, ...fields })));

const tunings = fc
  .record({
    language: fc.constantFrom('en', 'fr'),
    german: fc.constantFrom<string[]>([], ['name_de'], ['name_de', 'care']),
    languageField: fc.constantFrom(null, 'lang'),
    stems: fc.boolean(),
    compounds: fc.boolean(),
    enabled: fc.boolean(),
    synonyms: fc.subarray([{ kind: 'oneWay' as const, from: ['roses'], to: ['bank'] }]),
  })
  .map(({ german, enabled, ...rest }) =>
    completeTuning({
      search: [{ field: 'name', weight: 5 }, { field: 'name_de', weight: 3 }, { field: 'care' }],
      otherLanguages: [{ language: 'de', fields: german }],
      typos: { enabled },
      ...rest,
    }),
  )
  // The reference knows a language as soon as it is named; without texts it is none.
  .filter(({ otherLanguages, languageField }) => languageField !== null || otherLanguages[0]!.fields.length > 0);

const asked = fc
  .tuple(fc.array(fc.constantFrom(...WORDS, 'topf', '-rose', '"gift"'), { minLength: 1, maxLength: 2 }), fc.boolean())
  .map(([words, isEnded]) => words.join(' ') + (isEnded ? ' ' : ''));

test('sets, order, marks and what is said of the words', () => {
  fc.assert(
    fc.property(records, tunings, asked, fc.constantFrom<number[]>([], [2], [1, 4]), (list, tuning, q, cuts) => {
      const answer = search(generationOf(list, tuning, cuts), tuning, { q, size: 50, explain: true });
      const expected = referenceSearch(list, tuning, { q });
      expect(answer.results.map(({ id, marks }) => ({ id, marks }))).toEqual(
        expected.results.map(({ id, marks }) => ({ id, marks })),
      );
    }),
    runs(300),
  );
});

const found = (list: RecordJson[], q: string, document: Parameters<typeof completeTuning>[0]): string[] => {
  const fields = [{ field: 'name' }, { field: 'name_de' }];
  const tuning = completeTuning({ search: fields, typos: { enabled: false }, ...document });
  return search(generationOf(list, tuning), tuning, { q }).results.map(({ id }) => id);
};

test('a field has its language, whatever its record names', () => {
  const list = [
    { id: 'english', name: 'Rosen', lang: 'de' },
    { id: 'german', name_de: 'Rosen', lang: 'en' },
  ];
  expect(found(list, 'Rose ', {})).toEqual([]);
  const others = [{ language: 'de', fields: ['name_de'] }];
  expect(found(list, 'Rose ', { otherLanguages: others })).toEqual(['german']);
  expect(found(list, 'Rose ', { otherLanguages: others, languageField: 'lang' })).toEqual(['english', 'german']);
});

test('a record names its language in any case, with a country, with a line below', () => {
  const list = ['de', 'DE', 'de-AT', 'de_CH', 'en', 'fr', '', 7].map((lang, i) => ({
    id: `${i}`,
    name: 'Rosen',
    lang,
  }));
  const document = { otherLanguages: [{ language: 'de' }], languageField: 'lang' };
  expect(found(list, 'Rose ', document).sort()).toEqual(['0', '1', '2', '3']);
});

test('the index holds what the languages need, and what asks for another needs another', () => {
  const bare = planFor([completeTuning({})]);
  const german = planFor([completeTuning({ otherLanguages: [{ language: 'de' }], languageField: 'lang' })]);
  expect(german).toMatchObject({ languages: ['de', 'en'], wordEnds: true, columns: ['lang'] });
  expect([covers(bare, german), covers(german, bare)]).toEqual([false, true]);
  // Named and used by no text, it is none.
  expect(planFor([completeTuning({ otherLanguages: [{ language: 'de' }] })])).toEqual(bare);
});
