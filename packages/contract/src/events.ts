import type { FromSchema } from 'json-schema-to-ts';

const opaque = { type: 'string', minLength: 1, maxLength: 100 } as const;

/** What a visitor did with an answer. */
export const eventsSchema = {
  $id: 'Events',
  type: 'object',
  additionalProperties: false,
  required: ['events'],
  properties: {
    events: {
      type: 'array',
      minItems: 1,
      maxItems: 100,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['type', 'queryId'],
        properties: {
          id: { ...opaque, description: 'An event that comes again with its id counts once.' },
          type: {
            enum: ['view', 'click', 'convert', 'search'],
            description:
              'view: a record came into sight; click: it was opened; convert: what the page is for was done with it; search: an answer that was asked for without a session, such as the first of a page from the server, belongs to this visit.',
          },
          queryId: { ...opaque, description: 'Of the answer that the record stood in.' },
          recordId: { type: 'string', minLength: 1, maxLength: 512, description: 'Needed but with type search.' },
          position: { type: 'integer', minimum: 1, maximum: 10_000, description: 'From 1, over all pages.' },
          session: {
            ...opaque,
            description: 'Made by the page; it tells visits apart, not people. Needed with type search.',
          },
          viewer: { ...opaque, description: 'Made by the page, for a browser; with type search.' },
          tags: { type: 'array', items: opaque, maxItems: 20, description: 'As of a search; with type search.' },
          at: { type: 'string', format: 'date-time', description: 'Default: when it arrives.' },
        },
      },
    },
  },
} as const;

export type VisitorEvents = FromSchema<typeof eventsSchema>;
export type VisitorEvent = VisitorEvents['events'][number];
