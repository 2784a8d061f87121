import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { COUNTS } from './counts.ts';
import { judgePlants } from './judgements.ts';
import { makeGardens } from './quillbrook/gardens.ts';
import { makeGermanGuides } from './quillbrook/german-guides.ts';
import { makeGuides } from './quillbrook/guides.ts';
import { makePlants } from './quillbrook/plants.ts';

/**
 * Writes the Quillbrook records into a data folder: JSON Lines for each collection. Pictures are painted by paint.ts.
 */
export function makeQuillbrook(dataDir: string): void {
  const folder = path.join(dataDir, 'quillbrook');
  mkdirSync(folder, { recursive: true });
  const { plants } = makePlants(COUNTS.plants);
  writeFileSync(path.join(folder, 'judgements.json'), JSON.stringify({ judgements: judgePlants(plants) }));
  const lines = {
    plants,
    guides: makeGuides(COUNTS.guides),
    gardens: makeGardens(COUNTS.gardens),
    anleitungen: makeGermanGuides(),
  };
  for (const [name, records] of Object.entries(lines)) {
    const file = path.join(folder, `${name}.jsonl`);
    writeFileSync(`${file}.part`, records.map((record) => `${JSON.stringify(record)}\n`).join(''));
    renameSync(`${file}.part`, file);
  }
}

const target = process.argv[2];
if (target !== undefined) makeQuillbrook(target);
