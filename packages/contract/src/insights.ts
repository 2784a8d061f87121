import type { FromSchema } from 'json-schema-to-ts';
import {
  as,
  count,
  listOf,
  mapOf,
  moment,
  number,
  object,
  oneOf,
  orNull,
  ref,
  saying,
  share,
  text,
  yesOrNo,
  type Of,
} from './schema-of.ts';
import type { PlacementDocument } from './placement.ts';
import type { SynonymGroup, TuningDocument } from './tuning.ts';

/** How long each point of a series is. */
export const INSIGHT_INTERVALS = ['hour', 'day', 'week'] as const;

/** The lists there are, in the order of the screen; each is told apart by what went wrong, or well. */
export const INSIGHT_LISTS = [
  'asked',
  'nothing',
  'unclicked',
  'deep',
  'refined',
  'facets',
  'shown',
  'unseen',
  'completions',
  'slow',
] as const;
export type InsightListName = (typeof INSIGHT_LISTS)[number];

/** What a list may be sorted by; the largest first. */
export const INSIGHT_SORTS = ['count', 'visitors', 'nothing', 'clicked', 'meanPlace', 'lastAt', 'ms'] as const;
export type InsightSort = (typeof INSIGHT_SORTS)[number];

const range = object({ from: saying('A date, the first that counts.', text), to: saying('The last one.', text) });

const totals = object({
  searches: saying('Queries as visitors meant them: of a trail of keystrokes one.', count),
  visitors: saying('Whoever asked, counted once a day.', count),
  nothing: saying('Searches that found nothing.', count),
  clicked: saying('Searches with at least one result opened.', count),
  conversions: count,
  meanPlace: saying('Of the first result that was opened, from 1.', orNull(number)),
  p50Ms: saying('Time of an answer, the middle one.', orNull(number)),
  p95Ms: orNull(number),
});

const point = object({ at: moment, searches: count, nothing: count, clicked: count });

/** What visitors did in a range of days, and in the days before it. */
export const insightsSchema = object({
  range,
  before: saying('As many days right before the range.', range),
  interval: oneOf(...INSIGHT_INTERVALS),
  totals,
  totalsBefore: totals,
  series: listOf(point),
  seriesBefore: listOf(point),
  published: listOf(object({ at: moment, version: count, note: text })),
  tags: saying('Of the searches in the range, those asked for most: what may be given as tag.', listOf(text)),
  sampled: saying('Whether, under pressure, a part of the visits stands for all.', yesOrNo),
});
export type Insights = Of<typeof insightsSchema>;
export type InsightTotals = Insights['totals'];

const next = object({ text, count, found: saying('Of these, it found something.', count) });

/** A line of a list. */
export const insightItemSchema = object(
  {
    query: saying('As visitors typed it.', text),
    facet: text,
    value: saying('A value of a facet, or the key of a record.', text),
    title: saying('Of a record.', text),
    count: saying('Searches; of a record, how often it was shown.', count),
    visitors: count,
    nothing: count,
    clicked: count,
    conversions: count,
    meanPlace: orNull(number),
    lastAt: moment,
    ms: saying('Mean time of an answer.', number),
    next: saying('What was asked next, the most frequent first.', listOf(next)),
    finds: saying('How many records the query finds now.', count),
    fixedSince: saying('When a tuning was published after which the query has found something.', moment),
  },
  'query',
  'facet',
  'value',
  'title',
  'visitors',
  'nothing',
  'clicked',
  'conversions',
  'meanPlace',
  'lastAt',
  'ms',
  'next',
  'finds',
  'fixedSince',
);
export type InsightItem = Of<typeof insightItemSchema>;

/** Judgements that visitors' clicks make, by a click model that knows that the first ranks are looked at most. */
export const visitorJudgementsSchema = object({
  looked: saying('The share of visitors who look at a rank, from the first on; that of the first is 1.', listOf(share)),
  judgements: listOf(object({ query: text, grades: mapOf(count) })),
});
export type VisitorJudgements = Of<typeof visitorJudgementsSchema>;

/** How a query that fails may be mended. */
export const insightProposalSchema = object({
  kind: oneOf('synonym', 'spelling', 'rule', 'placement', 'record'),
  what: saying('What would be added, for a person.', text),
  reason: saying('Why, as a sentence.', text),
  effect: saying('What it would do, in figures.', text),
  add: saying(
    'What to append to the lists of the tuning, and the rule for words to put in the place of its own. Empty for a record that is to be changed by hand.',
    as<{ synonyms?: SynonymGroup[]; placements?: PlacementDocument[]; words?: TuningDocument['words'] }>({
      type: 'object',
    }),
  ),
  first: saying('Keys of the first records that it would find.', listOf(text)),
});
export type InsightProposal = Of<typeof insightProposalSchema>;

/** A tuning with what a proposal adds to its lists. */
export const withAdded = (
  tuning: TuningDocument,
  { synonyms, placements, words }: InsightProposal['add'],
): TuningDocument => ({
  ...tuning,
  ...(words && { words: { ...tuning.words, ...words } }),
  ...(synonyms && { synonyms: [...(tuning.synonyms ?? []), ...synonyms] }),
  ...(placements && { placements: [...(tuning.placements ?? []), ...placements] }),
});

/** What may be done about a query. */
export const insightProposalsSchema = object({
  finds: saying('Records it finds now.', object({ live: count, draft: count })),
  proposals: listOf(ref<InsightProposal>('InsightProposal')),
});
export type InsightProposals = Of<typeof insightProposalsSchema>;

/** A search of another system, or of another time, to be counted like one that happened here. */
export const pastSearchSchema = {
  $id: 'PastSearch',
  type: 'object',
  additionalProperties: false,
  required: ['at', 'q', 'session', 'total'],
  properties: {
    at: { type: 'string', format: 'date-time' },
    q: { type: 'string', minLength: 1, maxLength: 512, description: 'As the visitor meant it.' },
    session: { type: 'string', minLength: 1, maxLength: 100 },
    viewer: { type: 'string', minLength: 1, maxLength: 100 },
    total: { type: 'integer', minimum: 0, description: 'How many records it found.' },
    ms: { type: 'number', minimum: 0, maximum: 600_000 },
    tags: { type: 'array', items: { type: 'string', minLength: 1, maxLength: 100 }, maxItems: 20 },
    select: {
      type: 'object',
      maxProperties: 50,
      additionalProperties: { type: 'array', items: { type: 'string', maxLength: 1_000 }, maxItems: 100 },
      description: 'Values chosen, by facet.',
    },
    chosen: { type: 'boolean', description: 'Whether it was a completion.' },
    shown: {
      type: 'array',
      items: { type: 'string', maxLength: 512 },
      maxItems: 200,
      description: 'Records in sight.',
    },
    clicks: {
      type: 'array',
      maxItems: 200,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['recordId', 'position'],
        properties: {
          recordId: { type: 'string', minLength: 1, maxLength: 512 },
          position: { type: 'integer', minimum: 1, maximum: 10_000 },
        },
      },
    },
    conversions: { type: 'integer', minimum: 0, maximum: 1_000 },
  },
} as const;
export type PastSearch = FromSchema<typeof pastSearchSchema>;
