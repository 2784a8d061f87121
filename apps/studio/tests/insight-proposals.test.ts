/** What is proposed for a query that fails, and what is left out. */
import type { SearchAnswer } from '@yucca/contract';
import { withAdded } from '@yucca/contract';
import { ideasFor, type Failing } from '../src/server/insights/proposals';

const failing = (query: string, more: Partial<Failing> = {}, words: object[] = []): Failing => ({
  query,
  answer: { total: 0, understood: { words, dropped: [], placements: [], redirect: null, notice: null } as unknown as SearchAnswer['understood'] }, // prettier-ignore
  next: [],
  opened: [],
  ...more,
});
/** All but the rule, which any query of several words may be mended by. */
const ideas = (one: Failing, tuning: Parameters<typeof ideasFor>[1] = {}) =>
  ideasFor(one, tuning).filter(({ kind }) => kind !== 'rule');
const whats = (one: Failing, tuning: Parameters<typeof ideasFor>[1] = {}): string[] =>
  ideas(one, tuning).map(({ what }) => what);

test('what visitors asked next and found', () => {
  const next = [
    { text: 'Dog Rose', count: 9, found: 8 },
    { text: 'peony', count: 1, found: 1 },
    { text: 'briar', count: 4, found: 0 },
    { text: 'a rose that climbs up a wall', count: 3, found: 3 },
  ];
  const [idea, ...others] = ideas(failing('Hound brier', { next }), {});
  expect(others).toEqual([]);
  expect(idea).toMatchObject({
    kind: 'synonym',
    reason: '8 of 9 visitors who asked for “Dog Rose” next found something.',
    add: { synonyms: [{ kind: 'oneWay', from: ['hound brier'], to: ['dog rose'] }] },
  });
  // Taken once, it is not proposed again.
  expect(ideas(failing('hound brier', { next }), withAdded({}, idea!.add))).toEqual([]);
  // A single visitor is enough where there was no other.
  expect(whats(failing('briar', { next: [{ text: 'rose', count: 1, found: 1 }] }))).toHaveLength(1);
});

test('a word of the data that is spelt like one that stands nowhere', () => {
  expect(whats(failing('chrysantemum', {}, [{ text: 'chrysantemum', nearest: 'chrysanthemum' }]))).toEqual([
    'Synonym: “chrysantemum” finds “chrysanthemum” too',
  ]);
  expect(whats(failing('chilli', {}, [{ text: 'chilli', nearest: 'will' }]))).toEqual([]);
});

test('a word of the data that is the same in another script', () => {
  expect(ideas(failing('Moskva', {}, [{ text: 'Moskva', nearest: 'москва' }]))).toMatchObject([
    {
      reason: '“Moskva” stands in no record; “москва” is the same in another script.',
      add: { synonyms: [{ kind: 'oneWay', from: ['moskva'], to: ['москва'] }] },
    },
  ]);
  expect(whats(failing('Бор', {}, [{ text: 'Бор', nearest: 'bor' }]))).toEqual(['Synonym: “бор” finds “bor” too']);
});

test('one record that visitors look for further down', () => {
  const wanted = { recordId: 'P-7', opened: 6, meanRank: 8.6 };
  const other = { recordId: 'P-1', opened: 2, meanRank: 1 };
  const [idea] = ideasFor(failing('Dög rose!', { opened: [wanted, other] }), {});
  expect(idea).toMatchObject({ kind: 'placement', effect: 'rank 9 → 1', reason: '6 of 8 clicks are on this record.' });
  expect(idea!.add.placements).toEqual([
    { name: 'wanted-do-g-rose', when: { query: 'Dög rose!', is: 'exact' }, pin: [{ id: 'P-7', at: 1 }] },
  ]);
  // Few clicks, many records, or a rank that is in sight anyway say nothing.
  expect(whats(failing('rose', { opened: [{ ...wanted, opened: 4 }] }))).toEqual([]);
  expect(whats(failing('rose', { opened: [{ ...wanted, meanRank: 2 }] }))).toEqual([]);
  expect(whats(failing('rose', { opened: Array.from({ length: 5 }, (_, i) => ({ ...wanted, recordId: `P-${i}` })) }))).toEqual([]); // prettier-ignore
});

test('a looser rule where all words are required and no record has them all', () => {
  const rule = (query: string, tuning = {}, total = 0): string[] =>
    ideasFor({ ...failing(query), answer: { ...failing(query).answer, total } }, tuning)
      .filter(({ kind }) => kind === 'rule')
      .map(({ what }) => what);
  expect(rule('toxic to cats')).toEqual(['Words: most of them have to match, not all']);
  expect(rule('cats')).toEqual([]);
  expect(rule('toxic to cats', {}, 3)).toEqual([]);
  expect(rule('toxic to cats', { words: { require: 'most' } })).toEqual([]);
  const [idea] = ideasFor(failing('toxic to cats'), {});
  expect(withAdded({ words: { require: 'all', prefix: 'none' } }, idea!.add).words).toEqual({
    require: 'most',
    prefix: 'none',
  });
});

test('a record that lacks the word visitors came with', () => {
  const opened = [{ recordId: 'P-3', opened: 7, meanRank: 1 }, { recordId: 'P-4', opened: 2, meanRank: 2 }]; // prettier-ignore
  const [idea, ...others] = ideas(failing('houseplant', { openedNext: { indoor: opened } }), {});
  expect(others).toEqual([]);
  expect(idea).toMatchObject({
    kind: 'record',
    what: 'Record: write “houseplant” into P-3',
    reason: 'It does not hold the word, and 7 of 9 results opened for “indoor”, asked next, are this record.',
    add: {},
    first: ['P-3'],
  });
  // Too few, or spread over many: nothing is said.
  expect(whats(failing('houseplant', { openedNext: { indoor: [{ ...opened[0]!, opened: 4 }] } }))).toEqual([]);
  const many = Array.from({ length: 5 }, (_, i) => ({ recordId: `P-${i}`, opened: 3, meanRank: 1 }));
  expect(whats(failing('houseplant', { openedNext: { indoor: many } }))).toEqual([]);
});

test('another query for which the same records are opened', () => {
  const alike = [{ text: 'pepper', records: 4, opened: 9 }];
  const [idea] = ideas(failing('chilli', { alike }));
  expect(idea).toMatchObject({
    kind: 'synonym',
    reason: 'For “pepper” visitors open 4 of the same records.',
    add: { synonyms: [{ kind: 'oneWay', from: ['chilli'], to: ['pepper'] }] },
  });
});
