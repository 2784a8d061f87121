import { makeGardens } from '../src/quillbrook/gardens.ts';
import { GENERA } from '../src/quillbrook/genera.ts';
import { makeGuides } from '../src/quillbrook/guides.ts';
import { joined } from '../src/quillbrook/brush.ts';
import { drawPlant } from '../src/quillbrook/picture.ts';
import { makePlants } from '../src/quillbrook/plants.ts';
import { plural, withArticle } from '../src/quillbrook/words.ts';

const { plants, traits } = makePlants(3000);
const guides = makeGuides(400);
const gardens = makeGardens(120);

test('the same world every time', () => {
  expect(makePlants(3000).plants).toEqual(plants);
  expect(makeGuides(400)).toEqual(guides);
  expect(makeGardens(120)).toEqual(gardens);
  expect(drawPlant(traits[5]!)).toBe(drawPlant(traits[5]!));
});

test('every genus row is whole and every species is for sale', () => {
  for (const genus of GENERA) {
    expect(genus.light).toBeDefined();
    expect(genus.water).toBeDefined();
    expect(genus.heightCm[0]).toBeLessThan(genus.heightCm[1]);
    expect(genus.species.every(({ common }) => common.length > 0)).toBe(true);
  }
  const sold = new Set(plants.map(({ botanical }) => botanical.replace(/ ‘.*/, '')));
  expect(GENERA.flatMap(({ species }) => species).filter(({ botanical }) => !sold.has(botanical))).toEqual([]);
});

test('keys do not repeat, texts vary, nothing of a pattern is left over', () => {
  for (const list of [plants, guides, gardens]) expect(new Set(list.map(({ id }) => id)).size).toBe(list.length);
  expect(new Set(plants.map(({ care }) => care)).size).toBeGreaterThan(2900);
  expect(new Set(guides.map(({ title }) => title)).size).toBeGreaterThan(390);
  const texts = [
    ...plants.flatMap(({ description, care }) => [description, care]),
    ...guides.flatMap(({ title, sections, summary }) => [title, summary, ...sections.map(({ text }) => text)]),
    ...gardens.map(({ about }) => about),
  ];
  expect(texts.filter((text) => /[[\]{}|]|undefined|\ba [aeio]|\s[,.;]/.test(text))).toEqual([]);
});

test('a few years are dirty, as in real records', () => {
  const dirty = plants.filter(({ introduced }) => typeof introduced === 'string');
  expect(dirty.length).toBeGreaterThan(4);
  expect(dirty.length).toBeLessThan(40);
});

test('places lie where no land is, longitude first', () => {
  for (const { position } of gardens) {
    const [lng, lat] = position.coordinates;
    expect(lng).toBeGreaterThan(-21);
    expect(lng).toBeLessThan(-16);
    expect(lat).toBeGreaterThan(45);
    expect(lat).toBeLessThan(49);
  }
});

test('every form of growth draws a picture without broken numbers', () => {
  const seen = new Set<string>();
  for (const trait of traits) {
    if (seen.has(trait.form)) continue;
    seen.add(trait.form);
    const svg = drawPlant(trait);
    expect(svg).toMatch(/^<svg [^>]*viewBox="0 0 320 320"/);
    expect(svg).not.toMatch(/NaN|undefined|Infinity/);
    expect(svg.length).toBeLessThan(32_000);
  }
  expect(seen.size).toBe(new Set(GENERA.map(({ form }) => form)).size);
});

test('plurals and articles', () => {
  expect(['lily', 'hedgehog cactus', 'box', 'peony', 'begonia', 'wood fern', 'squash'].map(plural)).toEqual([
    'lilies',
    'hedgehog cacti',
    'box',
    'peonies',
    'begonias',
    'wood ferns',
    'squashes',
  ]);
  expect(['agave', 'rose', 'upright', 'unit'].map(withArticle)).toEqual(['an agave', 'a rose', 'an upright', 'a unit']);
});

test('neighbouring paths of one look become one, and nothing else changes place', () => {
  const leaf = (d: string, fill: string): string => `<path d="${d}" fill="${fill}"/>`;
  const drawn = `<g>${leaf('M0 0L1 1', 'red')}${leaf('M2 2L3 3', 'red')}<circle r="1"/>${leaf('M4 4', 'red')}${leaf('M5 5', 'blue')}</g>`;
  expect(joined(drawn)).toBe(
    `<g>${leaf('M0 0L1 1M2 2L3 3', 'red')}<circle r="1"/>${leaf('M4 4', 'red')}${leaf('M5 5', 'blue')}</g>`,
  );
  // What shines through would look different where two of them overlap.
  const clear = leaf('M0 0', '#ffffff80') + leaf('M1 1', '#ffffff80');
  expect(joined(clear)).toBe(clear);
});
