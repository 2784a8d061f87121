/** Reads CloudEvents 1.0 as they come over HTTP: structured, batched, or in headers. */
import {
  valueAtPointer,
  type CloudEvent,
  type FeedAction,
  type ProblemPart,
  type WebhookSource,
} from '@yucca/contract';
import { randomUUID } from 'node:crypto';
import { Failure, isFailure } from '../failure';
import { validate } from '../validate';

/** A hash of a row, made by its source, and which part of all keys it belongs to. */
export interface Print {
  hash: number;
  part: number;
}

/** One change, as a source told it. */
export interface FeedChange {
  source: string;
  event: string;
  type: string;
  key: string;
  action: FeedAction;
  /** Of a delete null. */
  data: string | null;
  order: number;
  /** Of the row in its source, where that tells one. */
  print?: Print;
}

const EVENTS_AT_ONCE = 1_000;
export const STRUCTURED = 'application/cloudevents+json';
const BATCHED = 'application/cloudevents-batch+json';
/** Attributes that are read from headers. */
const ATTRIBUTES = ['id', 'source', 'type', 'specversion', 'subject', 'time', 'sequence'] as const;
const ENDINGS: Readonly<Record<string, FeedAction>> = { upserted: 'upsert', patched: 'patch', deleted: 'delete' };

type Headers = { get: (name: string) => string | null };

/**
 * The changes of a request. `keyField`: the field of the collection's key, for events without a subject. Throws a
 * Failure that says which event is wrong, and where.
 */
export function readEvents(
  headers: Headers,
  body: unknown,
  { types = {}, plain }: WebhookSource,
  keyField: string,
): FeedChange[] {
  if (plain !== undefined && isPlain(headers)) return [plainChange(body, plain, types)];
  const events = eventsOf(headers, body);
  if (events.length > EVENTS_AT_ONCE)
    throw new Failure(
      'too-large',
      `A batch holds ${EVENTS_AT_ONCE} events at the most; this one has ${events.length}.`,
    );
  return events.map(({ event, pointer }) => changeOf(event, pointer, types, keyField));
}

/** Whether a request brings JSON of a system's own, and no event. */
const isPlain = (headers: Headers): boolean =>
  headers.get('ce-id') === null && mediaTypeOf(headers) === 'application/json';

const mediaTypeOf = (headers: Headers): string =>
  (headers.get('content-type') ?? '').split(';')[0]!.trim().toLowerCase();

/** What JSON of a system's own says, by pointers into it. */
function plainChange(
  body: unknown,
  { record, key, type, id, order }: NonNullable<WebhookSource['plain']>,
  types: Readonly<Record<string, FeedAction>>,
): FeedChange {
  const wrong = (pointer: string, detail: string): Failure =>
    invalid(`What came cannot be read: ${pointer || 'the whole'} ${detail}.`, [{ pointer, detail }]);
  const named = (pointer: string, what: string): string => {
    const value = valueAtPointer(body, pointer);
    const text = typeof value === 'number' ? String(value) : value;
    if (typeof text !== 'string' || text === '' || text.length > 512 || !text.isWellFormed())
      throw wrong(pointer, `must be ${what}: a text of up to 512 letters, or a number`);
    return text;
  };
  const told = type === undefined ? 'record.upserted' : named(type, 'what happened');
  const action = actionOf(told, types);
  if (action === null) throw wrong(type!, 'must be one that the feed names under types');
  const data = record === undefined || record === '' ? body : valueAtPointer(body, record);
  const isObject = typeof data === 'object' && data !== null && !Array.isArray(data);
  if (action !== 'delete' && !isObject)
    throw wrong(record ?? '', 'must be an object: the record, or what changes in it');
  return {
    source: 'plain',
    event: id === undefined ? randomUUID() : named(id, 'the name of the event'),
    type: told,
    key: named(key, 'the key of the record'),
    action,
    data: action === 'delete' ? null : JSON.stringify(data),
    order: order === undefined ? Date.now() * 1_000 : plainOrder(named(order, 'a whole number that grows, or a time'), order, wrong), // prettier-ignore
  };
}

function plainOrder(text: string, pointer: string, wrong: (pointer: string, detail: string) => Failure): number {
  const number = Number(text);
  if (Number.isSafeInteger(number) && number >= 0) return number;
  const at = /^\d{4}-\d\d-\d\d[T ]/.test(text) ? Date.parse(text) : Number.NaN;
  if (Number.isNaN(at)) throw wrong(pointer, 'must be a whole number of 53 bits, or a time');
  return at * 1_000;
}

function eventsOf(headers: Headers, body: unknown): { event: Record<string, unknown>; pointer: string }[] {
  const type = mediaTypeOf(headers);
  if (type === BATCHED) {
    if (!Array.isArray(body))
      throw invalid('A batch of events is a list.', [{ pointer: '', detail: 'must be a list' }]);
    return body.map((event: unknown, i) => ({ event: attributesOf(event, `/${i}`), pointer: `/${i}` }));
  }
  if (type === STRUCTURED) return [{ event: attributesOf(body, ''), pointer: '' }];
  if (headers.get('ce-id') === null)
    throw new Failure(
      'unsupported-type',
      `Events come as ${STRUCTURED}, as ${BATCHED}, or as JSON with ce- headers; this came as “${type.slice(0, 80) || 'nothing'}”.`,
    );
  const given = ATTRIBUTES.flatMap((name) => {
    const value = headers.get(`ce-${name}`);
    return value === null ? [] : [[name, value] as const];
  });
  return [{ event: { ...Object.fromEntries(given), data: body }, pointer: '' }];
}

function attributesOf(event: unknown, pointer: string): Record<string, unknown> {
  if (typeof event !== 'object' || event === null || Array.isArray(event))
    throw invalid('An event is an object.', [{ pointer, detail: 'must be an object' }]);
  return event as Record<string, unknown>;
}

function changeOf(
  attributes: Record<string, unknown>,
  pointer: string,
  types: Readonly<Record<string, FeedAction>>,
  keyField: string,
): FeedChange {
  const wrong = (name: string, detail: string): Failure =>
    invalid(`The event${pointer === '' ? '' : ` ${Number(pointer.slice(1)) + 1}`} cannot be read: ${name} ${detail}.`, [
      { pointer: `${pointer}/${name}`, detail },
    ]);
  const event = checked(attributes, pointer);
  for (const name of ['id', 'source', 'subject'] as const)
    if (event[name]?.isWellFormed() === false) throw wrong(name, 'holds half a character (a lone surrogate)');
  const action = actionOf(event.type, types);
  if (action === null)
    throw wrong('type', `must end in .${Object.keys(ENDINGS).join(', .')}, or be one that the feed names`);
  const { data } = event;
  const isObject = typeof data === 'object' && data !== null && !Array.isArray(data);
  if (action !== 'delete' && !isObject) throw wrong('data', 'must be an object: the record, or what changes in it');
  const own = isObject && Object.hasOwn(data, keyField) ? (data as Record<string, unknown>)[keyField] : undefined;
  const key = event.subject ?? (typeof own === 'string' || typeof own === 'number' ? String(own) : undefined);
  if (key === undefined || key === '')
    throw wrong('subject', `must be the key of the record, or data must hold “${keyField}”`);
  return {
    source: event.source,
    event: event.id,
    type: event.type,
    key,
    action,
    data: action === 'delete' ? null : JSON.stringify(data),
    order: orderOf(event, wrong),
  };
}

function checked(attributes: Record<string, unknown>, pointer: string): CloudEvent {
  try {
    return validate('CloudEvent', attributes);
  } catch (error) {
    if (!isFailure(error)) throw error;
    const parts = error.parts.map((part) => ({ ...part, pointer: `${pointer}${part.pointer}` }));
    throw invalid(
      `The event${pointer === '' ? '' : ` ${Number(pointer.slice(1)) + 1}`} cannot be read. ${error.message}`,
      parts,
    );
  }
}

function actionOf(type: string, types: Readonly<Record<string, FeedAction>>): FeedAction | null {
  if (Object.hasOwn(types, type)) return types[type]!;
  const ending = type.slice(type.lastIndexOf('.') + 1);
  return Object.hasOwn(ENDINGS, ending) ? ENDINGS[ending]! : null;
}

/**
 * What orders the changes of a key: the extension `sequence` (CloudEvents, Sequence) when it is a whole number, else
 * the time in microseconds, else the time of arrival.
 */
function orderOf(event: CloudEvent, wrong: (name: string, detail: string) => Failure): number {
  if (event.sequence !== undefined) {
    const number = Number(event.sequence);
    if (!Number.isSafeInteger(number) || number < 0) throw wrong('sequence', 'must be a whole number of 53 bits');
    return number;
  }
  if (event.time === undefined) return Date.now() * 1_000;
  const micros = /\.\d{3}(\d{1,3})/.exec(event.time)?.[1] ?? '';
  return Date.parse(event.time) * 1_000 + Number(micros.padEnd(3, '0'));
}

const invalid = (detail: string, parts: ProblemPart[]): Failure => new Failure('invalid', detail, parts);
