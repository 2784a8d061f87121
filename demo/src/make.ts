import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { judgePlants } from './judgements.ts';
import { makeGardens } from './quillbrook/gardens.ts';
import { makeGuides } from './quillbrook/guides.ts';
import { drawPlant } from './quillbrook/picture.ts';
import { makePlants } from './quillbrook/plants.ts';

const COUNTS = { plants: 3000, guides: 400, gardens: 120 };

/** Writes the Quillbrook data into a data folder: JSON Lines for each collection, and a picture for each plant. */
export function makeQuillbrook(dataDir: string): void {
  const folder = path.join(dataDir, 'quillbrook');
  const pictures = path.join(dataDir, 'files', 'quillbrook');
  mkdirSync(folder, { recursive: true });
  mkdirSync(pictures, { recursive: true });
  const { plants, traits } = makePlants(COUNTS.plants);
  for (const trait of traits) writeFileSync(path.join(pictures, `${trait.id}.svg`), drawPlant(trait));
  writeFileSync(path.join(folder, 'judgements.json'), JSON.stringify({ judgements: judgePlants(plants) }));
  const lines = { plants, guides: makeGuides(COUNTS.guides), gardens: makeGardens(COUNTS.gardens) };
  for (const [name, records] of Object.entries(lines)) {
    const file = path.join(folder, `${name}.jsonl`);
    writeFileSync(`${file}.part`, records.map((record) => `${JSON.stringify(record)}\n`).join(''));
    renameSync(`${file}.part`, file);
  }
}

const target = process.argv[2];
if (target !== undefined) makeQuillbrook(target);
