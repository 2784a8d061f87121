/** How a query that fails may be mended: each way is one object in a list. */
import type { InsightItem, InsightProposal, SearchAnswer, SynonymGroup } from '@yucca/contract';
import { foldWords } from '@yucca/engine';
import { leadsTo } from '@yucca/engine/visitors';

export interface Failing {
  query: string;
  /** What the draft answers. */
  answer: Pick<SearchAnswer, 'total' | 'understood'>;
  /** What visitors asked next. */
  next: NonNullable<InsightItem['next']>;
}

export type Idea = Pick<InsightProposal, 'kind' | 'reason' | 'group'>;

type Way = (failing: Failing) => Idea[];

/** Words of a group of synonyms at the most. */
const MOST_WORDS = 4;

/** Those who found nothing asked for something else and found it: the words mean the same to them. */
const askedNext: Way = ({ query, next }) =>
  next
    // One visitor in many who went on to something else says nothing.
    .filter(({ found }) => found > 1 || (found === 1 && next.length === 1))
    .filter(({ text }) => isShort(text) && isShort(query) && foldWords(text) !== foldWords(query))
    .map(({ text, count, found }) => ({
      kind: 'synonym',
      reason:
        found === 1 && count === 1
          ? `A visitor asked for “${text}” next and found something.`
          : `${found} of ${count} visitors who asked for “${text}” next found something.`,
      group: { kind: 'oneWay', from: [foldWords(query)], to: [foldWords(text)] },
    }));

/** A word that stands nowhere in the data, and one there that is spelt like it: two typos away at the most. */
const spelling: Way = ({ answer }) =>
  answer.understood.words.flatMap(({ text, nearest }): Idea[] =>
    nearest === undefined || !leadsTo(foldWords(text), nearest)
      ? []
      : [
          {
            kind: 'spelling',
            reason: `“${text}” stands in no record; “${nearest}” is spelt most like it.`,
            group: { kind: 'oneWay', from: [foldWords(text)], to: [nearest] },
          },
        ],
  );

const WAYS: readonly Way[] = [askedNext, spelling];

const isShort = (text: string): boolean => foldWords(text).split(' ').length <= MOST_WORDS;

/** What may be tried, the likeliest first; nothing twice, and nothing that the tuning has already. */
export function ideasFor(failing: Failing, synonyms: readonly SynonymGroup[]): Idea[] {
  const seen = new Set(synonyms.map((group) => JSON.stringify(group)));
  return WAYS.flatMap((way) => way(failing)).filter(({ group }) => {
    const known = seen.has(JSON.stringify(group));
    seen.add(JSON.stringify(group));
    return !known;
  });
}
