import type { FromSchema } from 'json-schema-to-ts';
import { originsSchema } from './key.ts';
import { count, listOf, moment, object, orNull, text, type Of } from './schema-of.ts';

/** What a page can be taken away as; a new one is a line here and a file in the server's `handover/targets`. */
export const HANDOVER_TARGETS = ['html', 'header', 'react', 'next', 'plain', 'static'] as const;

export type HandoverTarget = (typeof HANDOVER_TARGETS)[number];

export const handoverSchema = {
  $id: 'Handover',
  type: 'object',
  additionalProperties: false,
  required: ['target'],
  properties: {
    target: {
      enum: HANDOVER_TARGETS,
      description:
        'html: one file with the page as an element; header: the search field alone, for the header of a site; react: a project of React and Vite, the page written out; next: the same with Next.js, first results from its server; plain: TypeScript without a framework; static: a folder that needs no server, with the engine and the records in it, 50,000 at most.',
    },
    origins: originsSchema,
    key: {
      type: 'string',
      minLength: 1,
      maxLength: 64,
      default: 'new',
      description:
        'new: a search key is made for it, for the collections of the page and these origins. The id of a key: the files hold a placeholder for its secret; static, which has no key, holds the records that this one may see.',
    },
  },
} as const;

export type Handover = FromSchema<typeof handoverSchema, { keepDefaultedPropertiesOptional: true }>;

/** The files of a target as they would be taken away, with a placeholder for the key. */
export const handoverFilesSchema = object({
  /** `text` is null for what is not read as text. */
  files: listOf(object({ path: text, bytes: count, text: orNull(text) })),
  /** When this page was last taken away for this target, and as which version. */
  taken: orNull(object({ version: count, at: moment })),
});

export type HandoverFiles = Of<typeof handoverFilesSchema>;
