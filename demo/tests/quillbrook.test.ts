import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { makeGardens } from '../src/quillbrook/gardens.ts';
import { GENERA } from '../src/quillbrook/genera.ts';
import { makeGermanGuides } from '../src/quillbrook/german-guides.ts';
import { makeGuides } from '../src/quillbrook/guides.ts';
import { paintPlants } from '../src/quillbrook/paint.ts';
import { drawPlant } from '../src/quillbrook/picture.ts';
import { makePlants } from '../src/quillbrook/plants.ts';
import { plural, withArticle } from '../src/quillbrook/words.ts';

const { plants, traits } = makePlants(3000);
const guides = makeGuides(400);
const gardens = makeGardens(120);
const anleitungen = makeGermanGuides();

test('the same world every time', () => {
  expect(makePlants(3000).plants).toEqual(plants);
  expect(makeGuides(400)).toEqual(guides);
  expect(makeGardens(120)).toEqual(gardens);
  expect(makeGermanGuides()).toEqual(anleitungen);
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
  for (const list of [plants, guides, gardens, anleitungen])
    expect(new Set(list.map(({ id }) => id)).size).toBe(list.length);
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

test('pictures are painted as JPEGs, and a painter that was stopped goes on where it was', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'yucca-pictures-'));
  try {
    const few = traits.slice(0, 5);
    writeFileSync(path.join(folder, `${few[2]!.id}.jpg`), 'painted before');
    writeFileSync(path.join(folder, `${few[3]!.id}.jpg.part`), 'half a pic');
    await paintPlants(few, folder);
    expect(readdirSync(folder).sort()).toEqual(few.map(({ id }) => `${id}.jpg`).sort());
    const read = (index: number): Buffer => readFileSync(path.join(folder, `${few[index]!.id}.jpg`));
    expect(read(2).toString()).toBe('painted before');
    for (const index of [0, 1, 3, 4]) {
      // A JPEG begins with the marker "start of image" and ends with "end of image" (ITU-T T.81, B.1.1.3).
      expect([...read(index).subarray(0, 2), ...read(index).subarray(-2)]).toEqual([0xff, 0xd8, 0xff, 0xd9]);
    }
  } finally {
    rmSync(folder, { recursive: true });
  }
});
