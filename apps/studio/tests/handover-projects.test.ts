/** Projects as they are handed over: every design makes code that a strict compiler has nothing against. */
import { existsSync, mkdtempSync, mkdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { HandoverTarget, NewInterface } from '@yucca/contract';
import { Linter } from 'eslint';
import { strFromU8 } from 'fflate';
import ts from 'typescript';
import tseslint from 'typescript-eslint';
import { unpacked } from './archive';
import { House } from './house';

const ROOT = path.join(__dirname, '../../..');
const SERVER = 'https://search.example';
let house: House;
let away: string;

beforeAll(async () => {
  away = mkdtempSync(path.join(tmpdir(), 'yucca-projects-'));
  writeFileSync(path.join(away, 'kit.tgz'), 'the packed kit');
  house = await new House({ YUCCA_KIT: path.join(away, 'kit.tgz') }).open();
  await house.yucca.collections.create({ name: 'plants', title: 'Plants' });
  await house.yucca.collections.create({ name: 'guides', title: 'Guides' });
  const plants = Array.from({ length: 12 }, (_, i) => ({
    id: `P-${i}`,
    name: `Lavender ${i}`,
    picture: `/files/p${i}.svg`,
    care: 'Give it sun.',
    price: 5 + i,
    was: 9 + i,
    colour: ['red', 'white'][i % 2],
    category: ['Outdoor > Shrubs', 'Indoor'][i % 2],
    at: { lat: 51 + i / 10, lng: 1 },
  }));
  await house.load('plants', JSON.stringify(plants), 'application/json');
  await house.load('guides', JSON.stringify([{ id: 'G', title: 'Lavender in pots' }]), 'application/json');
  await house.yucca.tunings.patchDraft('plants', {
    geo: 'at',
    search: [{ field: 'name', weight: 10 }],
    facets: [
      { name: 'category', field: 'category', kind: 'tree', separator: ' > ' },
      { name: 'colour', field: 'colour' },
      { name: 'price', field: 'price', kind: 'numbers' },
    ],
    sorts: [{ name: 'cheap', label: 'Cheapest', by: [{ field: 'price', order: 'asc' }] }],
  });
  await house.yucca.tunings.publish('plants', null);
  for (const [slug, design] of Object.entries(DESIGNS)) house.yucca.interfaces.create({ slug, ...design });
});
afterAll(async () => {
  await house.leave();
  rmSync(away, { recursive: true, force: true });
});

const card = { title: 'name', picture: null, text: null, number: null, detail: null };
/** From the barest to the fullest. */
const DESIGNS: Record<string, Omit<NewInterface, 'slug'>> = {
  usual: { collection: 'plants' },
  bare: { collection: 'plants', card, facets: [], sorts: [], autocomplete: [], paging: 'more' },
  full: {
    collection: 'plants',
    title: `It's "odd" </title><script>{\`\${x}\`} \u2028 שלום`,
    card: { title: 'name', picture: 'picture', text: 'care', number: 'price', detail: 'category', former: 'was' },
    facets: [{ name: 'colour', control: 'swatches', colours: { red: '#aa0000' }, label: 'It’s {a} "colour"' }, 'price'],
    paging: 'endless',
    currency: 'EUR',
    languages: [{ locale: 'ar', texts: { search: `ابحث "الآن"` }, labels: { Price: 'السعر' } }],
    columns: 4,
    filters: 'sheet',
    header: { name: 'Odd {name}', links: [{ label: '</a>{1}', href: '/home?a="b"&c=\'d\'' }] },
    theme: { light: { accent: '#123456' }, corner: 3 },
    css: '.x { color: red; }',
    autocomplete: [
      { from: 'past', label: 'Asked' },
      { from: 'viewed', label: 'Seen' },
      { from: 'popular', label: 'Popular' },
      { from: 'values', label: "Let's go on" },
      { from: 'records', label: 'Plants' },
      { from: 'records', label: 'Guides', collection: 'guides' },
    ],
  },
  parts: {
    collection: 'plants',
    card: { ...card, number: 'price', second: 'category' },
    picture: { ratio: '1:1', fit: 'contain' },
    badges: [{ label: `It's "odd"`, where: `name = 'it''s'`, colour: '#ffffff' }],
    formats: { price: { unit: '"`${x}', decimals: 2 } },
    link: 'https://shop.example/{id}?a=\'`${x}"',
    typing: { letters: 2, delayMs: 50, enter: 'first', preview: false, voice: true },
    autocomplete: [
      { from: 'list', label: 'Help', rows: [{ text: `It's "here"`, href: '/hours' }] },
      { from: 'address', label: 'Offers', address: 'https://shop.example/o?q={q}' },
      { from: 'records', label: 'Plants', parts: ['number'], letters: 3 },
    ],
  },
  table: {
    collection: 'plants',
    layout: 'table',
    table: [{ field: 'name' }, { field: 'price', label: `The "price"` }],
    badges: [{ label: 'New', where: 'price > 5' }],
    start: { text: 'Welcome `${x}`', results: false },
    shelves: [
      { from: 'chosen', label: 'Ours', ids: ['P-1'] },
      { from: 'found', label: 'Guides', collection: 'guides' },
      { from: 'viewed', label: 'Seen', size: 4 },
    ],
  },
  rows: {
    collection: 'plants',
    layout: 'rows',
    start: { text: 'Begin' },
    link: 'https://shop.example/{id}',
    shelves: [
      { from: 'viewed', label: 'Seen "before"', size: 2 },
      { from: 'chosen', label: 'Ours', ids: ['P-1'] },
    ],
  },
  places: {
    collection: 'plants',
    layout: 'places',
    places: [{ name: "St. John's", lat: 51, lng: 1 }],
    autocomplete: [{ from: 'records', label: 'Guides', collection: 'guides' }],
  },
};

/** A project in a folder, with the packages of this repository around it. */
async function project(
  slug: string,
  target: HandoverTarget,
): Promise<{ folder: string; files: Record<string, string> }> {
  const { pieces } = await house.yucca.handovers.make(slug, { target }, SERVER);
  const folder = path.join(away, target, slug);
  const files: Record<string, string> = {};
  for (const [name, content] of Object.entries(await unpacked(pieces))) {
    const file = path.join(away, target, name);
    mkdirSync(path.dirname(file), { recursive: true });
    writeFileSync(file, content);
    files[path.relative(slug, name)] = strFromU8(content);
  }
  if (!existsSync(path.join(folder, 'node_modules')))
    symlinkSync(path.join(ROOT, 'node_modules'), path.join(folder, 'node_modules'));
  return { folder, files };
}

/** What the compiler says of projects of one target under their own strict options. */
function complaints(folders: readonly string[]): string[] {
  const parsed = folders.map((folder) => {
    const { config } = ts.readConfigFile(path.join(folder, 'tsconfig.json'), (name) => ts.sys.readFile(name)) as { config: object }; // prettier-ignore
    return ts.parseJsonConfigFileContent(config, ts.sys, folder);
  });
  const kit = path.join(ROOT, 'packages/kit/src');
  const program = ts.createProgram(
    parsed.flatMap(({ fileNames }) => fileNames),
    {
      ...parsed[0]!.options,
      // The kit's sources stand for the package that is made of them.
      ...{ allowImportingTsExtensions: true, preserveSymlinks: true },
      paths: { '@yucca/kit': [`${kit}/index.ts`], '@yucca/kit/react': [`${kit}/react/index.ts`], '@yucca/kit/react/voice': [`${kit}/react/voice-button.tsx`], '@yucca/kit/styles.css': [`${kit}/styles/search.css`] }, // prettier-ignore
    },
  );
  const own = program.getSourceFiles().filter(({ fileName }) => folders.some((folder) => fileName.startsWith(folder)));
  expect(own.length).toBeGreaterThan(folders.length * 3);
  return own.flatMap((source) =>
    [...program.getSyntacticDiagnostics(source), ...program.getSemanticDiagnostics(source)].map(
      ({ messageText, start = 0 }) =>
        `${path.relative(away, source.fileName)}:${source.getLineAndCharacterOfPosition(start).line + 1} ${ts.flattenDiagnosticMessageText(messageText, '\n')}`,
    ),
  );
}

/** What a linter says of them under the usual rules of its trade. */
function remarks(files: Readonly<Record<string, string>>): string[] {
  const linter = new Linter();
  const rules = [...tseslint.configs.recommended, ...tseslint.configs.stylistic] as Linter.Config[];
  const config = rules.map((one) => ({ ...one, files: ['**/*.ts', '**/*.tsx'] }));
  // The rules are in force.
  expect(linter.verify('var x: any = 1;', config, { filename: 'x.ts' })).not.toEqual([]);
  const sources = Object.entries(files).filter(([name]) => /\.tsx?$/.test(name));
  expect(sources.length).toBeGreaterThan(5);
  return sources.flatMap(
    ([name, text]) =>
    linter.verify(text, config, { filename: name }).map(({ line, ruleId, message }) => `${name}:${line} ${ruleId} ${message}`), // prettier-ignore
  );
}

test.each(['react', 'next', 'plain'] as const)(
  '%s: every design, typed strictly, linted, with nothing unused',
  async (target) => {
    const folders: string[] = [];
    for (const slug of Object.keys(DESIGNS)) {
      const { folder, files } = await project(slug, target);
      folders.push(folder);
      expect(remarks(files)).toEqual([]);
    }
    expect(complaints(folders)).toEqual([]);
  },
);

test('records of shelves lead to the pages of their own collection', async () => {
  for (const target of ['react', 'plain'] as const) {
    const { files } = await project('table', target);
    expect(files['src/search/yucca.ts'] ?? files['src/yucca.ts']).toMatch(/guides: '\/s\/guides\/r'/);
  }
});

test('a page in another language takes its texts along, and is told where it stands; one in English has none', async () => {
  const { files } = await project('full', 'react');
  const texts = files['src/search/texts.ts'] ?? files['src/texts.ts']!;
  expect(texts).toContain('ابحث "الآن"');
  expect(texts).toMatch(/textsOf\('ar', \{/);
  const whole = Object.values(files).join('\n');
  expect(whole).toContain('<TextsProvider value={PAGE_TEXTS}>');
  expect(whole).toContain('dir="rtl"');
  expect(files['index.html']).toContain('<html lang="ar">');
  const next = Object.values((await project('full', 'next')).files).join('\n');
  expect(next).toContain('PAGE_TEXTS.label(number.label)');
  expect(next).not.toMatch(/Nothing (is here|found)|description: "Search/);
  expect(Object.values((await project('usual', 'react')).files).join('\n')).not.toMatch(/TextsProvider|PAGE_TEXTS/);
});
