import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import type { Traits } from './painters/scene.ts';
import { drawPlant } from './picture.ts';

/**
 * Paints plants as JPEGs of 320 px into a folder, as a shop has its photographs. A browser would draw an SVG of a
 * hundred paths anew for every frame it is seen in, and a page of results shows a dozen. What is painted already stays,
 * so a painter that was stopped goes on where it was; a picture is whole or not there.
 */
export async function paintPlants(traits: readonly Traits[], folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const waiting = traits.values();
  const painter = async (): Promise<void> => {
    for (const trait of waiting) {
      const file = path.join(folder, `${trait.id}.jpg`);
      if (existsSync(file)) continue;
      const jpeg = await sharp(Buffer.from(drawPlant(trait)))
        .jpeg({ quality: 82 })
        .toBuffer();
      writeFileSync(`${file}.part`, jpeg);
      renameSync(`${file}.part`, file);
    }
  };
  // Several pictures at a time on a thread each beat one picture on several threads.
  sharp.concurrency(1);
  await Promise.all(Array.from({ length: availableParallelism() }, painter));
}
