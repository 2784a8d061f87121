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

/** Another query that leads to the same records. */
export interface Alike {
  text: string;
  /** Records that visitors open for both. */
  records: number;
  /** How often they open them for the other. */
  opened: number;
}

export interface Failing {
  query: string;
  /** What the draft answers. */
  answer: Pick<SearchAnswer, 'total' | 'understood'>;
  /** What visitors asked next. */
  next: NonNullable<InsightItem['next']>;
  /** What they opened, the most opened first. */
  opened: readonly Opened[];
  /** Queries for which the same records are opened. */
  alike?: readonly Alike[];
  /** What was opened of what was asked next, by its text. */
  openedNext?: Readonly<Record<string, readonly Opened[]>>;
}

/** A proposal before it has been tried; `effect` when trying tells nothing of it. */
export type Idea = Pick<InsightProposal, 'kind' | 'what' | 'reason' | 'add'> & { effect?: string; first?: string[] };

type Way = (failing: Failing, tuning: TuningDocument) => Idea[];

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

/** Visitors open the same records for both: the words mean the same to them. */
const openedForBoth: Way = ({ query, alike = [] }) =>
  alike
    .filter(({ text }) => isShort(text) && isShort(query))
    .map(({ text, records }) =>
      finding('synonym', foldWords(query), text, `For “${text}” visitors open ${records} of the same records.`),
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

const isLatin = (text: string): boolean => /\p{Script=Latin}/u.test(text);

/** A word that stands nowhere in the data, and the same there in another script. */
const otherScript: Way = ({ answer }) =>
  answer.understood.words.flatMap(({ text, nearest }) =>
    nearest === undefined || isLatin(text) === isLatin(nearest)
      ? []
      : [
          finding(
            'spelling',
            foldWords(text),
            nearest,
            `“${text}” stands in no record; “${nearest}” is the same in another script.`,
          ),
        ],
  );

/** A query of several words that no record has all of, where all are required. */
const looserRule: Way = ({ query, answer }, { words }) =>
  answer.total > 0 || foldWords(query).split(' ').length < 2 || (words?.require ?? 'all') !== 'all'
    ? []
    : [
        {
          kind: 'rule',
          what: 'Words: most of them have to match, not all',
          reason:
            'No record has all of these words. With this rule words are given up until something is found; queries that find something stay as they are.',
          add: { words: { require: 'most' } },
        },
      ];

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

/** Visitors asked for something else and opened one record of it: that record lacks the word they came with. */
const lacksTheWord: Way = ({ query, answer, openedNext = {} }) => {
  if (answer.total > 0 || !isShort(query)) return [];
  const after = Object.entries(openedNext).flatMap(([text, opened]) => opened.map((one) => ({ text, ...one })));
  const [wanted] = after.sort((a, b) => b.opened - a.opened);
  if (!wanted) return [];
  const all = after.reduce((sum, { opened }) => sum + opened, 0);
  if (all < CLICKS.least || wanted.opened < CLICKS.share * all) return [];
  return [
    {
      kind: 'record',
      what: `Record: write “${query}” into ${wanted.recordId}`,
      reason: `It does not hold the word, and ${wanted.opened} of ${all} results opened for “${wanted.text}”, asked next, are this record.`,
      effect: '0 → 1 record',
      add: {},
      first: [wanted.recordId],
    },
  ];
};

const WAYS: readonly Way[] = [
  askedNext,
  openedForBoth,
  otherScript,
  spelling,
  wantedFurtherDown,
  lacksTheWord,
  looserRule,
];

/** What may be tried, the likeliest first; nothing twice, and nothing that the tuning has already. */
export function ideasFor(failing: Failing, tuning: TuningDocument): Idea[] {
  const { synonyms = [], placements = [] } = tuning;
  const seen = new Set(synonyms.map((group) => JSON.stringify(group)));
  const names = new Set(placements.map(({ name }) => name));
  return WAYS.flatMap((way) => way(failing, tuning)).filter(({ add }) => {
    if (add.placements) return !names.has(add.placements[0]!.name);
    if (!add.synonyms) return true;
    const group = JSON.stringify(add.synonyms[0]);
    const known = seen.has(group);
    seen.add(group);
    return !known;
  });
}
