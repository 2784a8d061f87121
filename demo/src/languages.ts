import type { NewInterface } from '@yucca/contract';

type Languages = NonNullable<NewInterface['languages']>;

/** The nursery's page in German: the kit's texts, one of its own, and the names of the page. */
export const NURSERY_LANGUAGES: Languages = [
  { locale: 'en' },
  {
    locale: 'de',
    texts: {
      foundFor: '{total, plural, =0 {Keine Pflanze} one {Eine Pflanze} other {# Pflanzen}} für „{query}“',
      found: '{total, plural, =0 {Keine Pflanze} one {Eine Pflanze} other {# Pflanzen}}',
    },
    labels: {
      'Quillbrook Nursery': 'Gärtnerei Quillbrook',
      Plants: 'Pflanzen',
      'Growing guides': 'Pflanzanleitungen',
      'Selling well': 'Gern gekauft',
      Category: 'Art',
      Colour: 'Farbe',
      Price: 'Preis',
      Height: 'Höhe',
      Light: 'Licht',
      Water: 'Wasser',
      Hardiness: 'Winterhärte',
      'Safe for pets': 'Für Haustiere ungefährlich',
      Supplier: 'Lieferant',
      'Price, low to high': 'Preis aufsteigend',
      'Price, high to low': 'Preis absteigend',
      'Best rated': 'Beste Bewertung',
      Newest: 'Neueste',
    },
  },
];

/** The page of collection places from right to left: the names of its filters are as its data has them. */
export const PLACES_LANGUAGES: Languages = [
  { locale: 'en' },
  {
    locale: 'ar',
    labels: {
      'Quillbrook Collection Places': 'أماكن الاستلام من كويلبروك',
      Places: 'الأماكن',
      'Well spoken of': 'أماكن ممدوحة',
      Kind: 'النوع',
      Services: 'الخدمات',
      Town: 'المدينة',
      Rating: 'التقييم',
      'Best rated': 'الأعلى تقييمًا',
      'Plant hospital': 'مستشفى النباتات',
    },
  },
];
