import type { Why } from '@yucca/contract';
import { decisionBetween, decisionSentence } from '../src/features/tuning/comparison/decision';

const why = (change: Partial<Why> = {}): { why: Why } => ({
  why: { words: 2, typos: 0, text: 50, signals: 40, score: 48, parts: [], ...change },
});
const between = (upper: Partial<Why>, lower: Partial<Why>): string =>
  decisionSentence(decisionBetween(why(upper), why(lower))!, 'A', 'B');

test('the first number that differs decides, in the order in which they count', () => {
  expect(between({ words: 2, typos: 1, score: 10 }, { words: 1 })).toBe(
    '“A” holds 2 words of the query, “B” 1 word: more words stand first.',
  );
  expect(between({ typos: 0, score: 10 }, { typos: 2 })).toBe(
    '“A” was found with no typo, “B” with 2 typos: fewer stand first.',
  );
  expect(between({}, {})).toContain('loaded first');
});

test('of a score it is said which half tells the two apart', () => {
  expect(between({ score: 52, text: 60 }, { score: 50, text: 55 })).toBe(
    '“A” has the higher score, 52.00 against 50.00, by where its words were found.',
  );
  expect(between({ score: 52, signals: 90 }, { score: 50, signals: 20 })).toContain('by its signals');
  // The words speak for the lower one; the signals outweigh them.
  expect(between({ score: 52, text: 40, signals: 90 }, { score: 50, text: 55, signals: 10 })).toContain('its signals');
  expect(between({ score: 52, text: 70, signals: 10 }, { score: 50, text: 55, signals: 90 })).toContain(
    'words were found',
  );
});

test('a value that is the query decides before the score, a code before another', () => {
  const [code, name] = [true, false].map((isCode) => ({ whole: { field: 'sku', isCode } }));
  expect(between({ ...name, score: 10 }, {})).toBe(
    '“A” is the very query, in sku: that stands before what only holds it.',
  );
  expect(between({ ...code, score: 10 }, name!)).toContain('The code of “A” in sku is the very query');
  expect(between({ ...name, score: 52 }, { ...name })).toContain('higher score');
  // Something lifted stands above: then the whole value is the lower one's, and does not decide.
  expect(between({ score: 52 }, name!)).not.toContain('very query');
});

test('a pin decides before all numbers; without numbers nothing is said', () => {
  expect(decisionBetween({ ...why(), pinned: true }, why({ words: 9 }))).toEqual({ by: 'pin' });
  expect(decisionBetween({}, why())).toBeNull();
});
