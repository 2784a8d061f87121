/** How a query that fails may be mended: each way is one object in a list. */
import type { InsightItem, InsightProposal, SearchAnswer, TuningDocument } from '@yucca/contract';
import { foldWords } from '@yucca/engine';
import { leadsTo } from '@yucca/engine/visitors';

/** A record that visitors open for a query. */
export interface Opened {
  recordId: string;
  opened: number;
  /** Where it stood when they did, on average. */
  meanRank: number;
}

export interface Failing {
  query: string;
  /** What the draft answers. */
  answer: Pick<SearchAnswer, 'total' | 'understood'>;
  /** What visitors asked next. */
  next: NonNullable<InsightItem['next']>;
  /** What they opened, the most opened first. */
  opened: readonly Opened[];
}

/** A proposal before it has been tried; `effect` when trying tells nothing of it. */
export type Idea = Pick<InsightProposal, 'kind' | 'what' | 'reason' | 'add'> & { effect?: string; first?: string[] };

type Way = (failing: Failing) => Idea[];

/** Words of a group of synonyms at the most. */
const MOST_WORDS = 4;

const isShort = (text: string): boolean => foldWords(text).split(' ').length <= MOST_WORDS;

const finding = (kind: Idea['kind'], from: string, to: string, reason: string): Idea => ({
  kind,
  what: `Synonym: “${from}” finds “${to}” too`,
  reason,
  add: { synonyms: [{ kind: 'oneWay', from: [from], to: [to] }] },
});

/** Those who found nothing asked for something else and found it: the words mean the same to them. */
const askedNext: Way = ({ query, next }) =>
  next
    // One visitor in many who went on to something else says nothing.
    .filter(({ found }) => found > 1 || (found === 1 && next.length === 1))
    .filter(({ text }) => isShort(text) && isShort(query) && foldWords(text) !== foldWords(query))
    .map(({ text, count, found }) =>
      finding(
        'synonym',
        foldWords(query),
        foldWords(text),
        count === 1
          ? `A visitor asked for “${text}” next and found something.`
          : `${found} of ${count} visitors who asked for “${text}” next found something.`,
      ),
    );

/** A word that stands nowhere in the data, and one there that is spelt like it: two typos away at the most. */
const spelling: Way = ({ answer }) =>
  answer.understood.words.flatMap(({ text, nearest }) =>
    nearest === undefined || !leadsTo(foldWords(text), nearest)
      ? []
      : [
          finding(
            'spelling',
            foldWords(text),
            nearest,
            `“${text}” stands in no record; “${nearest}” is spelt like it.`,
          ),
        ],
  );

/** Clicks that say something, and the share of them that one record has to have. */
const CLICKS = { least: 5, share: 0.4 };
/** Results that are looked at without searching for them. */
const IN_SIGHT = 3;

/** Visitors look for one record, and it stands far down. */
const wantedFurtherDown: Way = ({ query, opened }) => {
  const all = opened.reduce((sum, one) => sum + one.opened, 0);
  const [wanted] = opened;
  if (!wanted || all < CLICKS.least || wanted.opened < CLICKS.share * all || wanted.meanRank <= IN_SIGHT) return [];
  const rank = Math.round(wanted.meanRank);
  return [
    {
      kind: 'placement',
      what: `Placement: ${wanted.recordId} first for “${query}”`,
      reason: `${wanted.opened} of ${all} clicks are on this record.`,
      effect: `rank ${rank} → 1`,
      add: {
        placements: [{ name: nameOf(query), when: { query, is: 'exact' }, pin: [{ id: wanted.recordId, at: 1 }] }],
      },
      first: [wanted.recordId],
    },
  ];
};

/** A name for a placement, made from a query: “Dog rose” → “wanted-dog-rose”. */
const nameOf = (query: string): string =>
  `wanted-${
    query
      .normalize('NFKD')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 40) || 'query'
  }`;

const WAYS: readonly Way[] = [askedNext, spelling, wantedFurtherDown];

/** What may be tried, the likeliest first; nothing twice, and nothing that the tuning has already. */
export function ideasFor(failing: Failing, { synonyms = [], placements = [] }: TuningDocument): Idea[] {
  const seen = new Set(synonyms.map((group) => JSON.stringify(group)));
  const names = new Set(placements.map(({ name }) => name));
  return WAYS.flatMap((way) => way(failing)).filter(({ add }) => {
    const group = JSON.stringify(add.synonyms?.[0]);
    const known = add.synonyms ? seen.has(group) : names.has(add.placements![0]!.name);
    if (add.synonyms) seen.add(group);
    return !known;
  });
}
