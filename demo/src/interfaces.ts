import type { NewInterface } from '@yucca/contract';
import { places } from './quillbrook/gardens.ts';

/** The three search pages of Quillbrook. */
export const INTERFACES: NewInterface[] = [
  {
    slug: 'nursery',
    title: 'Quillbrook Nursery',
    collection: 'plants',
    thing: 'Product',
    currency: 'GBP',
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
    title: 'Quillbrook Growing Guides',
    collection: 'guides',
    layout: 'rows',
    thing: 'Article',
    paging: 'endless',
    pageSize: 20,
    card: { text: 'sections.text', detail: 'topic', number: null },
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
    title: 'Quillbrook Collection Places',
    collection: 'gardens',
    layout: 'places',
    thing: 'LocalBusiness',
    pageSize: 20,
    paging: 'more',
    card: { text: 'about', detail: 'address', number: 'rating' },
    places: places(12),
    autocomplete: [
      { from: 'past', label: 'Asked before', size: 3 },
      { from: 'records', label: 'Places', size: 6 },
      { from: 'popular', label: 'Well spoken of', size: 5 },
    ],
  },
];
