import { STARTING_THEMES, type NewInterface, type Theme } from '@yucca/contract';
import { NURSERY_LANGUAGES, PLACES_LANGUAGES } from './languages.ts';
import { places } from './quillbrook/gardens.ts';

const themeOf = (name: string): Theme => STARTING_THEMES.find((one) => one.name === name)!.theme;

/** The search pages of Quillbrook. */
export const INTERFACES: NewInterface[] = [
  {
    slug: 'nursery',
    theme: themeOf('Herbarium'),
    title: 'Quillbrook Nursery',
    collection: 'plants',
    thing: 'Product',
    currency: 'GBP',
    formats: { height_cm: { unit: 'cm' } },
    languages: NURSERY_LANGUAGES,
    facets: [
      'category',
      {
        name: 'colour',
        control: 'swatches',
        colours: { cream: '#fbf3d5', 'blue-green': '#4f8a86', grey: '#9aa29c', green: '#5a8f4e', purple: '#7d4f93' },
      },
      'price',
      'height',
      'light',
      'water',
      'hardiness',
      'pet_safe',
      { name: 'supplier', folded: true },
    ],
    autocomplete: [
      { from: 'past', label: 'Asked before', size: 3 },
      { from: 'values', label: 'Go on with', size: 3 },
      { from: 'records', label: 'Plants', size: 5 },
      { from: 'records', label: 'Growing guides', collection: 'guides', size: 3 },
      { from: 'viewed', label: 'Looked at before', size: 3 },
      { from: 'popular', label: 'Selling well', size: 5 },
    ],
  },
  {
    slug: 'growing',
    theme: themeOf('Frost'),
    title: 'Quillbrook Growing Guides',
    collection: 'guides',
    layout: 'rows',
    thing: 'Article',
    paging: 'endless',
    pageSize: 20,
    card: { text: 'sections.text', detail: 'topic', number: null },
    start: { text: 'What our growers have written down: when to sow, what to prune, and what is eating it.' },
    autocomplete: [
      { from: 'past', label: 'Asked before', size: 3 },
      { from: 'records', label: 'Guides', size: 5 },
      { from: 'records', label: 'Plants for it', collection: 'plants', size: 3 },
      { from: 'viewed', label: 'Read before', size: 3 },
      { from: 'popular', label: 'To begin with', size: 5 },
    ],
  },
  {
    slug: 'collect',
    theme: themeOf('Seed packet'),
    title: 'Quillbrook Collection Places',
    collection: 'gardens',
    layout: 'places',
    thing: 'LocalBusiness',
    pageSize: 20,
    paging: 'more',
    card: { text: 'about', detail: 'address', number: 'rating' },
    badges: [{ label: 'Plant hospital', where: "services = 'plant hospital'" }],
    facets: ['kind', 'services', 'town', { name: 'rating', control: 'steps' }],
    filters: 'right',
    languages: PLACES_LANGUAGES,
    places: places(12),
    autocomplete: [
      { from: 'past', label: 'Asked before', size: 3 },
      { from: 'records', label: 'Places', size: 6 },
      { from: 'popular', label: 'Well spoken of', size: 5 },
    ],
  },
  {
    slug: 'anleitungen',
    theme: themeOf('Frost'),
    title: 'Pflanzanleitungen aus Quillbrook',
    collection: 'anleitungen',
    layout: 'rows',
    thing: 'Article',
    pageSize: 12,
    card: { text: 'sections.text', detail: 'topic', number: null },
    languages: [
      {
        locale: 'de',
        labels: {
          Title: 'Titel',
          Summary: 'Kurz gesagt',
          Plants: 'Pflanzen',
          Topic: 'Thema',
          Author: 'Geschrieben von',
        },
      },
    ],
    start: {
      text: 'Was unsere Gärtner aufgeschrieben haben: wann man sät, was man schneidet und wer da an den Blättern frisst.',
    },
    autocomplete: [
      { from: 'past', label: 'Schon gesucht', size: 3 },
      { from: 'values', label: 'Themen', size: 3 },
      { from: 'records', label: 'Anleitungen', size: 5 },
      { from: 'viewed', label: 'Schon gelesen', size: 3 },
      { from: 'popular', label: 'Zum Anfangen', size: 5 },
    ],
  },
];
