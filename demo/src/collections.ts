import type { TuningDocument } from '@yucca/contract';
import { season } from './season.ts';

export interface DemoCollection {
  name: string;
  title: string;
  tuning: TuningDocument;
  /** What somebody at Quillbrook is trying out: it waits as a draft. A merge patch of the tuning. */
  draft?: Partial<TuningDocument>;
}

/** The fields of an article, whatever it is written in. */
const ARTICLE: NonNullable<TuningDocument['search']> = [
  { field: 'title', weight: 10 },
  { field: 'plants', weight: 5 },
  { field: 'topic', weight: 4 },
  { field: 'summary', weight: 4 },
  { field: 'sections.heading', weight: 3 },
  { field: 'sections.text', weight: 1 },
  { field: 'author', weight: 1 },
];

/** How the Quillbrook collections are searched. */
export const COLLECTIONS: DemoCollection[] = [
  {
    name: 'plants',
    title: 'Plants',
    tuning: {
      language: 'en',
      search: [
        { field: 'name', weight: 10 },
        { field: 'common_names', weight: 8 },
        { field: 'botanical', weight: 8 },
        { field: 'category', weight: 4 },
        { field: 'colours', weight: 3 },
        { field: 'description', weight: 2 },
        { field: 'care', weight: 1 },
        { field: 'suppliers.name', weight: 1 },
        { field: 'id', weight: 1 },
      ],
      typos: { exactFields: ['id'] },
      stopWords: ['a', 'an', 'and', 'for', 'in', 'of', 'the', 'with'],
      synonyms: [
        { kind: 'same', words: ['houseplant', 'indoor plant', 'pot plant'] },
        { kind: 'oneWay', from: ['succulent'], to: ['agave', 'aloe', 'sempervivum'] },
        { kind: 'oneWay', from: ['drought'], to: ['full sun', 'gravel', 'no watering'] },
      ],
      facets: [
        { name: 'category', field: 'category', kind: 'tree', separator: ' > ' },
        { name: 'colour', field: 'colours' },
        { name: 'price', field: 'price', kind: 'numbers', label: 'Price' },
        { name: 'height', field: 'height_cm', kind: 'numbers', label: 'Height' },
        { name: 'light', field: 'light' },
        { name: 'water', field: 'water' },
        { name: 'hardiness', field: 'hardiness' },
        { name: 'pet_safe', field: 'pet_safe', label: 'Safe for pets' },
        { name: 'supplier', field: 'suppliers.id', labelField: 'suppliers.name' },
      ],
      sorts: [
        { name: 'price-low', label: 'Price, low to high', by: [{ field: 'price' }] },
        { name: 'price-high', label: 'Price, high to low', by: [{ field: 'price', order: 'desc' }] },
        { name: 'rating', label: 'Best rated', by: [{ field: 'rating', order: 'desc' }] },
        { name: 'newest', label: 'Newest', by: [{ field: 'added', order: 'desc' }] },
      ],
      signals: [
        { field: 'sales_90d', weight: 5, shape: 'log' },
        { field: 'rating', weight: 2 },
        { field: 'added', weight: 1, shape: 'recency', halfLifeDays: 180 },
      ],
      signalShare: 0.15,
      placements: [
        {
          name: 'bulb-planting',
          when: { query: 'bulb', is: 'contains', ...season('09-01', '11-30') },
          lift: ["stock > 0 AND category LIKE 'Bulbs >%'"],
          notice: 'Spring bulbs go in before the ground freezes. Orders of ten and more travel free until November.',
        },
        {
          name: 'midwinter-gifts',
          when: { query: 'gift', is: 'starts', ...season('11-15', '12-23') },
          replaceQuery: 'orchid',
          notice: 'Wrapped on request. Our orchids travel in a heated box.',
        },
        {
          name: 'hedging-weeks',
          when: { query: 'hedge', is: 'contains', ...season('10-15', '03-15') },
          lift: ["category LIKE 'Outdoor > Hedging%'"],
          notice: 'Bare-root hedging is dug and sent from now until mid March.',
        },
        { name: 'collecting', when: { query: 'collection point' }, redirect: '/s/collect' },
      ],
      hide: ['checksum', 'media_ids'],
    },
    draft: {
      words: { require: 'most' },
      signalShare: 0.2,
      synonyms: [
        { kind: 'same', words: ['houseplant', 'indoor plant', 'pot plant'] },
        { kind: 'same', words: ['xmas cactus', 'holiday cactus', 'schlumbergera'] },
        { kind: 'oneWay', from: ['succulent'], to: ['agave', 'aloe', 'sempervivum'] },
        { kind: 'oneWay', from: ['drought'], to: ['full sun', 'gravel', 'no watering'] },
      ],
    },
  },
  {
    name: 'guides',
    title: 'Guides',
    tuning: {
      language: 'en',
      search: ARTICLE,
      words: { require: 'most' },
      stopWords: ['a', 'an', 'and', 'do', 'for', 'how', 'in', 'is', 'my', 'of', 'the', 'to', 'what', 'with'],
      facets: [
        { name: 'topic', field: 'topic' },
        { name: 'level', field: 'level' },
        { name: 'author', field: 'author' },
      ],
      snippets: [{ field: 'sections.text', words: 28 }],
    },
  },
  {
    name: 'gardens',
    title: 'Gardens',
    tuning: {
      language: 'en',
      search: [
        { field: 'name', weight: 10 },
        { field: 'town', weight: 8 },
        { field: 'kind', weight: 4 },
        { field: 'address', weight: 3 },
        { field: 'services', weight: 2 },
        { field: 'about', weight: 1 },
      ],
      facets: [
        { name: 'kind', field: 'kind' },
        { name: 'services', field: 'services', match: 'all' },
        { name: 'town', field: 'town' },
        { name: 'rating', field: 'rating', kind: 'numbers' },
      ],
      sorts: [{ name: 'rating', label: 'Best rated', by: [{ field: 'rating', order: 'desc' }] }],
      geo: 'position',
    },
  },
  {
    name: 'anleitungen',
    title: 'Anleitungen',
    tuning: {
      language: 'de',
      search: ARTICLE,
      words: { require: 'most' },
      stopWords: ['das', 'der', 'die', 'ein', 'eine', 'im', 'in', 'ist', 'mit', 'und', 'von', 'wie', 'zu'],
      synonyms: [
        { kind: 'same', words: ['Hauswurz', 'Sempervivum'] },
        { kind: 'same', words: ['Waldrebe', 'Clematis'] },
        { kind: 'oneWay', from: ['Ungeziefer'], to: ['Schädlinge', 'Blattläuse', 'Schnecken'] },
      ],
      facets: [
        { name: 'topic', field: 'topic', label: 'Thema' },
        { name: 'level', field: 'level', label: 'Für wen' },
        { name: 'author', field: 'author', label: 'Geschrieben von' },
      ],
      sorts: [{ name: 'newest', label: 'Neueste zuerst', by: [{ field: 'published', order: 'desc' }] }],
    },
  },
];
