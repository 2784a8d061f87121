/** The written types of a design and its schemas say the same. */
import Ajv2020 from 'ajv/dist/2020.js';
import {
  interfaceSchema,
  THEME_COLOURS,
  type InterfaceDocument,
  type PageFacet,
  type SectionDocument,
  type Theme,
} from '../src/index.ts';

const colours = Object.fromEntries(THEME_COLOURS.map((name) => [name, '#123456'])) as Required<Theme>['light'];

/** Every property there is, as its type has it. */
const everything: Required<InterfaceDocument> = {
  ...{
    collection: 'plants',
    title: 'Plants',
    layout: 'cards',
    columns: 4,
    filters: 'above',
    languages: [{ locale: 'de', texts: { search: 'Suchen' }, labels: { Price: 'Preis' } }],
    density: 'dense',
  },
  ...{ sorts: ['cheap'], css: 'h2 { color: red }', pageSize: 12, paging: 'more', currency: 'GBP', thing: 'Product' },
  card: { title: 'name', picture: null, text: 'care', number: 'price', detail: 'kind', former: 'was', second: 'genus' },
  facets: [
    'price',
    {
      ...{ name: 'colour', label: 'Colours', control: 'swatches', order: 'label', folded: true, shown: 3 },
      colours: { cream: '#fbf3d5' },
    } satisfies Required<PageFacet>,
  ],
  header: {
    ...{ name: 'Shop', links: [{ label: 'Home', href: '/' }] },
    ...{ logo: `${'0'.repeat(40)}.svg`, logoAlone: true },
  },
  theme: {
    ...{ scheme: 'both', light: colours, dark: colours, text: 'slab', heading: 'mono', figures: 'plexMono' },
    ...{ corner: 3, size: 1.1, marks: 'weight' },
  } satisfies Required<Theme>,
  autocomplete: [
    {
      ...{ from: 'records', label: 'Plants', collection: 'plants', size: 3, letters: 2, parts: ['number'] },
      ...{ rows: [{ text: 'Help', detail: 'by phone', href: '/help' }], address: 'https://shop.example/offers?q={q}' },
    } satisfies Required<SectionDocument>,
  ],
  typing: { letters: 2, delayMs: 100, enter: 'first', preview: false, voice: true },
  picture: { ratio: '3:4', fit: 'contain' },
  textLines: 2,
  formats: { price: { currency: 'GBP', unit: 'each', decimals: 2 } },
  badges: [{ label: 'New', where: "added > DATE('2026-01-01')", colour: '#123456' }],
  link: 'https://shop.example/{id}',
  table: [{ field: 'name', label: 'Name' }],
  start: { text: 'Welcome', results: false },
  shelves: [{ from: 'chosen', label: 'Ours', collection: 'plants', sort: 'cheap', ids: ['a'], size: 3 }],
  places: [{ name: 'Penden', lat: 1, lng: 2 }],
};

type Schema = { properties?: Record<string, Schema>; items?: Schema; anyOf?: Schema[] };

/** Each object of a value has all properties of its schema. */
function compare(value: unknown, schema: Schema, path: string): void {
  const { properties, items, anyOf } = schema;
  if (properties) {
    expect([path, Object.keys(value as object).sort()]).toEqual([path, Object.keys(properties).sort()]);
    for (const [name, inner] of Object.entries(properties))
      compare((value as Record<string, unknown>)[name], inner, `${path}/${name}`);
  } else if (items) {
    const objects = items.anyOf?.find((one) => one.properties) ?? items;
    for (const one of (value as unknown[]).filter((each) => typeof each === 'object'))
      compare(one, objects, `${path}/0`);
  } else if (anyOf) compare(value, anyOf[0]!, path);
}

test('a design that says everything is valid, and everything is in it', () => {
  const validate = new Ajv2020({ strict: false }).compile(interfaceSchema);
  expect([validate(everything), validate.errors]).toEqual([true, null]);
  compare(everything, interfaceSchema as unknown as Schema, '');
});
