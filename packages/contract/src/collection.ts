import type { FromSchema } from 'json-schema-to-ts';
import { nameSchema } from './names.ts';

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

export interface Collection {
  name: string;
  title: string;
  /** The field that identifies a record. */
  key: string;
  records: number;
  generation: number;
  /** Of the index on disk. */
  bytes: number;
  liveVersion: number;
  draftChanged: boolean;
  /** Queries that are judged. */
  judged: number;
  createdAt: string;
  /** When a record or the tuning last changed; null before the first change. */
  changedAt: string | null;
}

export interface Page<T> {
  items: T[];
  total: number;
  page: number;
  pages: number;
  size: number;
}

/** Which fields of a record make up a result card. Guessed from the data; any part may be missing. */
export interface Card {
  title: string | null;
  picture: string | null;
  text: string | null;
  number: string | null;
  /** A second line of text, such as a category or a kind. */
  detail: string | null;
}
