import { FACET_KIND_NAMES } from './facets.ts';
import { LIMITS } from './limits.ts';
import { nameSchema } from './names.ts';
import { placementSchema } from './placement.ts';
import { SIGNAL_SHAPE_NAMES } from './signal-shapes.ts';

const fieldPath = { type: 'string', minLength: 1, maxLength: 512 } as const;
const someWords = { type: 'string', minLength: 1, maxLength: LIMITS.queryLength } as const;
const LANGUAGE_TAG = '^[a-zA-Z]{2,8}(-[a-zA-Z0-9]{1,8})*$';
const wordList = { type: 'array', items: someWords, minItems: 1, maxItems: 200 } as const;

const typos = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: { type: 'boolean', default: true },
    oneFrom: {
      type: 'integer',
      minimum: 1,
      maximum: 100,
      default: 4,
      description: 'Letters from which one typo is allowed.',
    },
    twoFrom: {
      type: 'integer',
      minimum: 1,
      maximum: 100,
      default: 8,
      description: 'Letters from which two typos are allowed.',
    },
    firstLetter: { type: 'boolean', default: true, description: 'May the first letter be wrong.' },
    numbers: { type: 'boolean', default: false, description: 'May words with digits hold typos.' },
    exactFields: {
      type: 'array',
      items: fieldPath,
      maxItems: 60,
      default: [],
      description: 'Fields that never match with a typo.',
    },
    exactWords: {
      type: 'array',
      items: someWords,
      maxItems: 10_000,
      default: [],
      description: 'Words that never match with a typo.',
    },
  },
} as const;

const synonyms = {
  type: 'array',
  maxItems: 20_000,
  description: 'Groups of words that mean the same (same), or words that also find others (oneWay).',
  items: {
    type: 'object',
    required: ['kind'],
    oneOf: [
      {
        additionalProperties: false,
        required: ['kind', 'words'],
        properties: { kind: { const: 'same' }, words: { ...wordList, minItems: 2 } },
      },
      {
        additionalProperties: false,
        required: ['kind', 'from', 'to'],
        properties: { kind: { const: 'oneWay' }, from: wordList, to: wordList },
      },
    ],
  },
} as const;

const facets = {
  type: 'array',
  maxItems: LIMITS.facetsPerQuery,
  items: {
    type: 'object',
    additionalProperties: false,
    required: ['name', 'field'],
    properties: {
      name: { type: 'string', minLength: 1, maxLength: 128 },
      field: fieldPath,
      labelField: { ...fieldPath, description: 'A field beside it that holds the name to show for each value.' },
      kind: { enum: FACET_KIND_NAMES, default: 'values' },
      match: {
        enum: ['any', 'all'],
        default: 'any',
        description: 'Whether one or every chosen value must be present. Numbers and trees are always any.',
      },
      order: { enum: ['count', 'value'], default: 'count' },
      size: { type: 'integer', minimum: 1, maximum: LIMITS.valuesPerFacet, default: 20 },
      label: { type: 'string', maxLength: 200 },
      buckets: {
        type: 'array',
        items: { type: 'number' },
        minItems: 2,
        maxItems: 200,
        description: 'Edges of the buckets, ascending. Without them the results are parted evenly.',
      },
      separator: { type: 'string', minLength: 1, maxLength: 20, default: ' > ' },
      by: { enum: ['year', 'month', 'day'], default: 'month' },
    },
  },
} as const;

const sorts = {
  type: 'array',
  maxItems: 50,
  items: {
    type: 'object',
    additionalProperties: false,
    required: ['name', 'by'],
    properties: {
      name: nameSchema,
      label: { type: 'string', maxLength: 200 },
      by: {
        type: 'array',
        minItems: 1,
        maxItems: 5,
        items: {
          type: 'object',
          additionalProperties: false,
          required: ['field'],
          properties: { field: fieldPath, order: { enum: ['asc', 'desc'], default: 'asc' } },
        },
      },
    },
  },
} as const;

const signals = {
  type: 'array',
  maxItems: 20,
  description: 'Business numbers that lift a result. Records without the number get nothing for it.',
  items: {
    type: 'object',
    additionalProperties: false,
    required: ['field'],
    properties: {
      field: fieldPath,
      order: { enum: ['asc', 'desc'], default: 'desc' },
      weight: { type: 'number', exclusiveMinimum: 0, maximum: 1000, default: 1 },
      shape: { enum: SIGNAL_SHAPE_NAMES, default: 'linear' },
      halfLifeDays: {
        type: 'number',
        exclusiveMinimum: 0,
        maximum: 36_500,
        default: 90,
        description: 'recency: a date this much older than the newest counts half.',
      },
    },
  },
} as const;

/** How a collection is searched: one document per collection and version. Unknown properties are refused. */
export const tuningSchema = {
  $id: 'Tuning',
  type: 'object',
  additionalProperties: false,
  properties: {
    language: {
      type: 'string',
      pattern: LANGUAGE_TAG,
      default: 'en',
      description: 'A BCP 47 tag. "und", and languages without a stemmer, mean no stems.',
    },
    otherLanguages: {
      type: 'array',
      maxItems: LIMITS.otherLanguages,
      default: [],
      description:
        'Languages of some texts, besides `language`: those of the fields named here, and all texts of a record whose `languageField` names it. Stems, articles, spellings and compounds of a language count in its own texts alone.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['language'],
        properties: {
          language: { type: 'string', pattern: LANGUAGE_TAG, description: 'A BCP 47 tag.' },
          fields: { type: 'array', items: fieldPath, maxItems: 60, default: [] },
        },
      },
    },
    languageField: {
      type: ['string', 'null'],
      minLength: 1,
      maxLength: 512,
      description: 'A field that tells the language of its record, as a BCP 47 tag: "de", "de-AT".',
    },
    search: {
      type: 'array',
      maxItems: 60,
      description: 'Searchable fields and how much a match in each counts. Empty = every string field, weight 1.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['field'],
        properties: { field: fieldPath, weight: { type: 'number', exclusiveMinimum: 0, maximum: 1000, default: 1 } },
      },
    },
    words: {
      type: 'object',
      additionalProperties: false,
      properties: {
        require: {
          enum: ['all', 'most', 'any'],
          default: 'all',
          description: 'most: the least telling words are dropped until something is found.',
        },
        prefix: {
          enum: ['last', 'all', 'none'],
          default: 'last',
          description: 'Which words may be unfinished: the last (search as you type), all, or none.',
        },
      },
    },
    typos,
    stems: { type: 'boolean', default: true, description: 'Whether other forms of a word are found.' },
    compounds: {
      type: 'boolean',
      default: true,
      description:
        'Whether a word is found inside compounds of other words that the collection holds: in German, Dutch, Danish, Swedish, Norwegian and Finnish.',
    },
    stopWords: {
      type: 'array',
      items: someWords,
      maxItems: 2_000,
      default: [],
      description: 'Words that may be missing from a record; they still score when present.',
    },
    synonyms,
    facets,
    sorts,
    signals,
    signalShare: {
      type: 'number',
      minimum: 0,
      maximum: 1,
      default: 0.2,
      description: '0 = words decide alone and signals break ties; 1 = signals decide among equal matches.',
    },
    placements: { type: 'array', maxItems: 2_000, items: placementSchema },
    group: {
      type: ['object', 'null'],
      additionalProperties: false,
      required: ['field'],
      properties: { field: fieldPath, keep: { type: 'integer', minimum: 1, maximum: 20, default: 1 } },
    },
    geo: { type: ['string', 'null'], minLength: 1, maxLength: 512, description: 'The field that holds the position.' },
    show: { type: 'array', items: fieldPath, maxItems: 200, description: 'Fields a search returns; ["*"] = all.' },
    hide: { type: 'array', items: fieldPath, maxItems: 200, description: 'Fields a search never returns.' },
    mark: { type: 'array', items: fieldPath, maxItems: 200, description: 'Fields whose matches are marked.' },
    snippets: {
      type: 'array',
      maxItems: 20,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['field'],
        properties: { field: fieldPath, words: { type: 'integer', minimum: 4, maximum: 200, default: 24 } },
      },
    },
    html: {
      type: 'array',
      items: fieldPath,
      maxItems: 60,
      description: 'Fields that hold HTML: their tags are not words.',
    },
  },
} as const;
