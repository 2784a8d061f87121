import type { FromSchema } from 'json-schema-to-ts';
import { nameSchema } from './names.ts';
import { as, count, listOf, moment, number, object, oneOf, orNull, saying, text, type Of } from './schema-of.ts';

/** What an event does to a record. */
export const FEED_ACTIONS = ['upsert', 'patch', 'delete'] as const;
export type FeedAction = (typeof FEED_ACTIONS)[number];

/** What became of an event. */
export const FEED_EVENT_STATES = ['applied', 'waiting', 'early', 'old', 'dead'] as const;
export type FeedEventState = (typeof FEED_EVENT_STATES)[number];

const webhookSource = {
  type: 'object',
  additionalProperties: false,
  required: ['kind'],
  properties: {
    kind: { const: 'webhook' },
    types: {
      type: 'object',
      maxProperties: 100,
      additionalProperties: { enum: FEED_ACTIONS },
      description: 'What events of a type do, where their type does not end in .upserted, .patched or .deleted.',
    },
  },
} as const;

const feedName = { type: 'string', minLength: 1, maxLength: 100 } as const;

export const newFeedSchema = {
  $id: 'NewFeed',
  type: 'object',
  additionalProperties: false,
  required: ['name', 'collection', 'source'],
  properties: { name: feedName, collection: nameSchema, source: webhookSource },
} as const;
export type NewFeed = FromSchema<typeof newFeedSchema>;
export type FeedSource = NewFeed['source'];

export const feedPatchSchema = {
  $id: 'FeedPatch',
  type: 'object',
  additionalProperties: false,
  properties: { name: feedName, source: webhookSource },
} as const;
export type FeedPatch = FromSchema<typeof feedPatchSchema>;

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

/** A source that keeps a collection in step. */
export const feedSchema = object({
  id: text,
  name: text,
  collection: text,
  source: as<FeedSource>(webhookSource),
  state: oneOf('running', 'paused'),
  lagS: saying('How long the oldest event that is not applied has waited; 0 when there is none.', number),
  lastEventAt: orNull(moment),
  events: saying('Events that are kept.', count),
  dead: saying('Events that could not be applied.', count),
  early: saying('Changes that came before their record and wait for it.', count),
  perMinute: saying('Events of the last 60 minutes, the oldest first.', listOf(count)),
  createdAt: moment,
});
export type Feed = Of<typeof feedSchema>;

export const feedWithSecretSchema = object({
  feed: feedSchema,
  secret: saying('What the source signs with (Standard Webhooks). It is told this once.', text),
});
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
