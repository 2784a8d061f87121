import type { FromSchema } from 'json-schema-to-ts';
import { nameSchema } from './names.ts';
import { count, listOf, object, orNull, text, yesOrNo, type Of, type SchemaOf } from './schema-of.ts';

const title = { type: 'string', minLength: 1, maxLength: 200 } as const;

export const newCollectionSchema = {
  $id: 'NewCollection',
  type: 'object',
  additionalProperties: false,
  required: ['name'],
  properties: {
    name: nameSchema,
    title,
    key: {
      type: 'string',
      minLength: 1,
      maxLength: 200,
      description: 'The field that identifies a record. Default: id.',
    },
  },
} as const;

export type NewCollection = FromSchema<typeof newCollectionSchema>;

export const collectionPatchSchema = {
  $id: 'CollectionPatch',
  type: 'object',
  additionalProperties: false,
  properties: { title },
} as const;

export type CollectionPatch = FromSchema<typeof collectionPatchSchema>;

export const collectionSchema = object({
  name: text,
  title: text,
  /** The field that identifies a record. */
  key: text,
  records: count,
  generation: count,
  /** Of the index on disk. */
  bytes: count,
  liveVersion: count,
  draftChanged: yesOrNo,
  /** Sources that keep it in step. */
  feeds: count,
  /** Queries that are judged. */
  judged: count,
  /** Whether there are searches of visitors to look at. */
  searched: yesOrNo,
  createdAt: text,
  /** When a record or the tuning last changed; null before the first change. */
  changedAt: orNull(text),
});

export type Collection = Of<typeof collectionSchema>;

/** One page of a list. */
export const pageOf = <T>(items: SchemaOf<T>): SchemaOf<Page<T>> =>
  object({ items: listOf(items), total: count, page: count, pages: count, size: count });

export interface Page<T> {
  items: T[];
  total: number;
  page: number;
  pages: number;
  size: number;
}

/** Which fields of a record make up a result card. Guessed from the data; any part may be missing. */
export const cardSchema = object(
  {
    title: orNull(text),
    picture: orNull(text),
    text: orNull(text),
    number: orNull(text),
    /** A line of text below the title, such as a category or a kind. */
    detail: orNull(text),
    /** A number that was before: struck through where it is greater than the number. */
    former: orNull(text),
    /** A line of text below the detail. */
    second: orNull(text),
  },
  'former',
  'second',
);

export type Card = Of<typeof cardSchema>;
