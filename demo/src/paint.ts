import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { COUNTS } from './counts.ts';
import { paintPlants } from './quillbrook/paint.ts';
import { makePlants } from './quillbrook/plants.ts';

// The command that paints all pictures of a data folder: `paint.ts <folder>`.
const dataDir = process.argv[2]!;
await paintPlants(makePlants(COUNTS.plants).traits, path.join(dataDir, 'files/quillbrook'));
writeFileSync(path.join(dataDir, 'quillbrook/painted'), '');
