import { Chance } from '../random.ts';
import { greens, ground, pot, tonesOf } from './brush.ts';
import type { Form } from './genera.ts';
import { beds } from './painters/beds.ts';
import { edible } from './painters/edible.ts';
import { potted } from './painters/potted.ts';
import type { Painter, Scene, Traits } from './painters/scene.ts';
import { woody } from './painters/woody.ts';

/** One painter for each form of growth. */
const PAINTERS: Record<Form, Painter> = { ...potted, ...beds, ...woody, ...edible };

const POTTED = new Set<Form>([
  'foliage',
  'palm',
  'rosette',
  'cactus',
  'herb',
  'fern',
  'trailing',
  'iris',
  'mound',
  'grass',
]);

/** Draws a plant from its own traits: an SVG of 320 by 320, the same for the same traits. */
export function drawPlant(traits: Traits): string {
  const chance = new Chance(`picture ${traits.id}`);
  const hangs = traits.form === 'trailing';
  const inPot = (traits.indoor && POTTED.has(traits.form)) || traits.form === 'herb' || hangs;
  const baseY = inPot ? 216 : 278;
  const tall = (inPot ? 168 : 214) + traits.stature * 24;
  const scene: Scene = {
    chance,
    green: greens(chance),
    bloom: tonesOf(traits.colours[0] ?? 'white'),
    traits,
    baseY,
    tall,
  };
  const plant = PAINTERS[traits.form](scene);
  const stand = inPot ? pot(chance) : '';
  // A trailing plant hangs over the edge of a pot that stands higher and is seen behind its vines.
  const drawn = hangs ? `<g transform="translate(0 -70)">${stand}</g>${plant}` : plant + stand;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 320 320" width="320" height="320">${ground(chance)}${drawn}</svg>\n`;
}
