import type { FromSchema } from 'json-schema-to-ts';
import {
  FEED_ACTIONS,
  feedMappingSchema,
  feedSourceSchema,
  type FeedMapping,
  type FeedSource,
} from './feed-sources.ts';
import { nameSchema } from './names.ts';
import {
  as,
  count,
  listOf,
  moment,
  number,
  object,
  oneOf,
  orNull,
  saying,
  text,
  yesOrNo,
  type Of,
} from './schema-of.ts';
import type { RecordJson } from './search.ts';

/** What became of an event. */
export const FEED_EVENT_STATES = ['applied', 'waiting', 'early', 'old', 'dead'] as const;
export type FeedEventState = (typeof FEED_EVENT_STATES)[number];

const checkEveryS = {
  type: ['integer', 'null'],
  minimum: 60,
  maximum: 31_536_000,
  default: 86_400,
  description: 'Seconds between two comparisons with the source that nobody asks for; null: none.',
} as const;
const feedName = { type: 'string', minLength: 1, maxLength: 100 } as const;

export const newFeedSchema = {
  $id: 'NewFeed',
  type: 'object',
  additionalProperties: false,
  required: ['name', 'collection', 'source'],
  properties: {
    name: feedName,
    collection: nameSchema,
    source: feedSourceSchema,
    mapping: feedMappingSchema,
    checkEveryS,
  },
} as const;
export interface NewFeed {
  name: string;
  collection: string;
  source: FeedSource;
  mapping?: FeedMapping;
  checkEveryS?: number | null;
}

export const feedPatchSchema = {
  $id: 'FeedPatch',
  type: 'object',
  additionalProperties: false,
  properties: { name: feedName, source: feedSourceSchema, mapping: feedMappingSchema, checkEveryS },
} as const;
export type FeedPatch = Partial<Omit<NewFeed, 'collection'>>;

/** A look at what a source has, before it is connected. */
export const feedPreviewSchema = {
  $id: 'FeedPreview',
  type: 'object',
  additionalProperties: false,
  required: ['source'],
  properties: {
    source: feedSourceSchema,
    mapping: feedMappingSchema,
    feed: { type: 'string', maxLength: 100, description: 'Whose secrets are meant where the source has none.' },
  },
} as const;
export interface FeedPreview {
  source: FeedSource;
  mapping?: FeedMapping;
  feed?: string;
}

export const feedPreviewAnswerSchema = object({
  records: saying(
    'The first records: as they come, and as they would be stored.',
    listOf(object({ before: as<RecordJson>({ type: 'object' }), after: orNull(as<RecordJson>({ type: 'object' })), problem: orNull(text) })), // prettier-ignore
  ),
  key: saying('The field that tells them apart; null when none does.', orNull(text)),
});
export type FeedPreviewAnswer = Of<typeof feedPreviewAnswerSchema>;

const attribute = { type: 'string', minLength: 1, maxLength: 512 } as const;

/** An event of a source: CloudEvents 1.0, with the extension Sequence. Other extensions are let be. */
export const cloudEventSchema = {
  $id: 'CloudEvent',
  type: 'object',
  required: ['specversion', 'id', 'source', 'type'],
  properties: {
    specversion: { const: '1.0' },
    id: attribute,
    source: attribute,
    type: attribute,
    subject: attribute,
    time: { type: 'string', format: 'date-time' },
    sequence: {
      type: ['string', 'integer'],
      description: 'A whole number that grows: it orders the changes of a record.',
    },
    data: {},
  },
} as const;
export type CloudEvent = FromSchema<typeof cloudEventSchema>;

/** How a run stands or ended. */
export const FEED_RUN_STATES = ['running', 'done', 'failed', 'asking', 'cancelled'] as const;
export type FeedRunState = (typeof FEED_RUN_STATES)[number];

/** A field of the source that was not there before, is there no more, or holds values of another type. */
export const fieldChangeSchema = object({
  field: text,
  was: orNull(text),
  is: orNull(text),
  used: saying('What the live tuning and the pages do with the field.', listOf(text)),
});
export type FieldChange = Of<typeof fieldChangeSchema>;

export const feedRunSchema = object({
  number: count,
  state: saying(
    'asking: more than a tenth of the records would be deleted; they are when it is run with confirm=true.',
    oneOf(...FEED_RUN_STATES),
  ),
  by: oneOf('schedule', 'hand', 'change'),
  whole: saying('Everything of the source was read, so that what it lacks is deleted.', yesOrNo),
  startedAt: moment,
  endedAt: orNull(moment),
  read: count,
  written: count,
  same: count,
  deleted: count,
  failed: saying('Records that could not be stored.', count),
  total: saying('Records expected, as far as it is known.', orNull(count)),
  leftS: saying('Seconds until it is done, by how fast it went so far; null when that cannot be told.', orNull(number)),
  asks: saying('Records that would be deleted.', orNull(count)),
  reason: saying('Why it failed, or what else is to be said.', orNull(text)),
  changes: saying('How fields differ from the run before.', listOf(fieldChangeSchema)),
});
export type FeedRun = Of<typeof feedRunSchema>;

/** What a comparison that nobody asked for has found. */
export const feedDriftSchema = object({
  at: moment,
  missing: saying('Records that were here and are not.', count),
  different: saying('Records that are not as the source has them, or were changed by somebody else.', count),
  extra: saying('Records that the source does not have.', count),
});
export type FeedDrift = Of<typeof feedDriftSchema>;

/** A source that keeps a collection in step. */
export const feedSchema = object({
  id: text,
  name: text,
  collection: text,
  source: as<FeedSource>(feedSourceSchema),
  mapping: as<FeedMapping>(feedMappingSchema),
  state: saying(
    'failing: the last runs failed, and it is tried again less and less often.',
    oneOf('running', 'paused', 'failing'),
  ),
  reason: saying('Why it fails.', orNull(text)),
  lagS: saying('How long the oldest event that is not applied has waited; 0 when there is none.', number),
  lastEventAt: saying('When something last came: an event, or an answer of a source that is asked.', orNull(moment)),
  nextRunAt: orNull(moment),
  run: saying('The newest run, of sources that are asked.', orNull(feedRunSchema)),
  checkEveryS: orNull(number),
  drift: saying('What the last comparison found that nobody asked for.', orNull(feedDriftSchema)),
  events: saying('Events that are kept.', count),
  dead: saying('Events that could not be applied.', count),
  early: saying('Changes that came before their record and wait for it.', count),
  perMinute: saying('Events of the last 60 minutes, the oldest first.', listOf(count)),
  createdAt: moment,
});
export type Feed = Of<typeof feedSchema>;

export const feedWithSecretSchema = object(
  {
    feed: feedSchema,
    secret: saying('What a webhook signs with (Standard Webhooks). It is told this once.', text),
  },
  'secret',
);
export type FeedWithSecret = Of<typeof feedWithSecretSchema>;

export const feedEventSchema = object(
  {
    number: saying('In the order of arrival.', count),
    event: saying('The id its source gave it.', text),
    source: text,
    type: text,
    key: text,
    action: oneOf(...FEED_ACTIONS),
    state: saying(
      'early: a change that came before its record; old: a newer one was applied already; dead: it cannot be applied.',
      oneOf(...FEED_EVENT_STATES),
    ),
    reason: saying('Why it is dead.', text),
    at: saying('When it happened, as its source says.', moment),
    receivedAt: moment,
  },
  'reason',
);
export type FeedEvent = Of<typeof feedEventSchema>;

export const feedTakenSchema = object({
  taken: saying('Events that are stored now.', count),
  repeats: saying('Events that had come before.', count),
});
export type FeedTaken = Of<typeof feedTakenSchema>;

export const feedReplaySchema = {
  $id: 'FeedReplay',
  type: 'object',
  additionalProperties: false,
  properties: {
    numbers: {
      type: 'array',
      items: { type: 'integer', minimum: 1 },
      minItems: 1,
      maxItems: 1_000,
      description: 'Of dead events. Without it all of them are tried again.',
    },
  },
} as const;
export type FeedReplay = FromSchema<typeof feedReplaySchema>;

export const feedTestSchema = {
  $id: 'FeedTest',
  type: 'object',
  additionalProperties: false,
  required: ['key', 'action'],
  properties: {
    key: { type: 'string', minLength: 1, maxLength: 512 },
    action: { enum: FEED_ACTIONS },
    data: { type: 'object', description: 'The record, or what changes in it.' },
  },
} as const;
export type FeedTest = FromSchema<typeof feedTestSchema>;

/** How a record may differ from its source. */
export const REPAIR_KINDS = ['missing', 'different', 'extra'] as const;
export type RepairKind = (typeof REPAIR_KINDS)[number];

export const feedComparisonSchema = object({
  records: saying('Of the source.', count),
  same: count,
  missing: saying('Records that the collection lacks.', count),
  different: count,
  extra: saying('Records that the source does not have.', count),
  unreadable: saying('Lines that hold no record.', count),
  samples: saying(
    'The first of each.',
    object({
      missing: listOf(text),
      different: listOf(object({ key: text, fields: listOf(text) })),
      extra: listOf(text),
      unreadable: listOf(object({ line: count, detail: text })),
    }),
  ),
});
export type FeedComparison = Of<typeof feedComparisonSchema>;

export const feedRepairSchema = object({
  written: count,
  deleted: count,
  left: saying('Records that events have changed since the source was read: those are newer.', count),
  unreadable: saying('Lines that hold no record; with any of them nothing is deleted.', count),
  asks: saying(
    'More than a tenth of the records would be deleted: how many. They are, when it is sent again with confirm=true.',
    orNull(count),
  ),
});
export type FeedRepair = Of<typeof feedRepairSchema>;
