import { colourOf, type Theme, type ThemeColour } from '@yucca/contract';
import { clampChroma, formatHex, oklch, wcagContrast } from 'culori';

/** Two colours that meet, and how much they must differ at least (WCAG 2.2, success criteria 1.4.3 and 1.4.11). */
export interface ColourPair {
  colour: ThemeColour;
  ground: ThemeColour;
  least: 4.5 | 3;
}

const pairs = (colour: ThemeColour, least: ColourPair['least'], ...grounds: ThemeColour[]): ColourPair[] =>
  grounds.map((ground) => ({ colour, ground, least }));

/** Text on what it stands on, and outlines of what can be worked. */
export const COLOUR_PAIRS: readonly ColourPair[] = [
  ...pairs('ink', 4.5, 'paper', 'raised', 'sunk', 'accentTint', 'mark'),
  ...pairs('soft', 4.5, 'paper', 'raised', 'sunk', 'accentTint'),
  ...pairs('accent', 4.5, 'paper', 'raised', 'accentTint'),
  ...pairs('onAccent', 4.5, 'accent'),
  ...pairs('danger', 4.5, 'paper', 'raised'),
  ...pairs('edge', 3, 'paper', 'raised'),
];

/** A pair that differs too little, with the nearest colour that would do. */
export interface WeakPair extends ColourPair {
  contrast: number;
  /** Null when no lightness of this colour is enough on this ground. */
  better: string | null;
}

export const contrastOf = (a: string, b: string): number => wcagContrast(a, b);

/** The pairs of a theme that are too weak in one of its two modes. */
export function weakPairs(theme: Theme, mode: 'light' | 'dark'): WeakPair[] {
  return COLOUR_PAIRS.flatMap((pair) => {
    const [colour, ground] = [colourOf(theme, mode, pair.colour), colourOf(theme, mode, pair.ground)];
    const contrast = contrastOf(colour, ground);
    if (contrast >= pair.least) return [];
    const grounds = COLOUR_PAIRS.filter((other) => other.colour === pair.colour);
    const better = nearestThat(colour, (one) =>
      grounds.every((other) => contrastOf(one, colourOf(theme, mode, other.ground)) >= other.least),
    );
    return [{ ...pair, contrast, better }];
  });
}

const STEP = 0.005;

/** The colour nearest in lightness (OKLCH) that does, of the same hue; null when none does. */
export function nearestThat(hex: string, does: (hex: string) => boolean): string | null {
  const colour = oklch(hex);
  if (!colour) return null;
  for (let by = 0; by <= 1; by += STEP) {
    for (const l of [colour.l - by, colour.l + by]) {
      if (l < 0 || l > 1) continue;
      const found = formatHex(clampChroma({ ...colour, l }, 'oklch'));
      if (does(found)) return found;
    }
  }
  return null;
}
