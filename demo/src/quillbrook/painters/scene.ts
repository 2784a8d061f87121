import type { Chance } from '../../random.ts';
import type { Tones } from '../brush.ts';
import type { Form } from '../genera.ts';

/** What a picture shows of a plant. */
export interface Traits {
  id: string;
  form: Form;
  indoor: boolean;
  colours: readonly string[];
  flowers: boolean;
  /** 0 = the smallest of its kind, 1 = the tallest. */
  stature: number;
}

/** What a painter works with. */
export interface Scene {
  chance: Chance;
  green: Tones;
  bloom: Tones;
  traits: Traits;
  /** Where the plant comes out of the ground or the pot. */
  baseY: number;
  /** Height of the drawn plant. */
  tall: number;
}

/** Draws a plant of one form of growth, as SVG. */
export type Painter = (scene: Scene) => string;

/** The drawings of a counted number of parts, one after the other. */
export const times = (count: number, draw: (i: number) => string): string =>
  Array.from({ length: count }, (_, i) => draw(i)).join('');

/** Colours that leaves may have: with one of them first, a plant is bought for its leaves. */
export const LEAF_COLOURS: ReadonlySet<string> = new Set(['green', 'blue-green', 'grey', 'bronze', 'cream']);
