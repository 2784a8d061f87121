import { THEME_COLOURS, type Theme, type ThemeColour } from './schema.ts';

/** A theme to begin with. */
export interface StartingTheme {
  name: string;
  /** What it is like, in few words. */
  about: string;
  theme: Theme;
}

/** Colours in the order of THEME_COLOURS. */
const colours = (list: string): Record<ThemeColour, string> => {
  const values = list.split(' ');
  return Object.fromEntries(THEME_COLOURS.map((name, i) => [name, `#${values[i]}`])) as Record<ThemeColour, string>;
};

// paper raised sunk line edge ink soft accent accentTint onAccent mark danger
export const STARTING_THEMES: readonly StartingTheme[] = [
  {
    name: 'Herbarium',
    about: 'Sepia and moss, book letters',
    theme: {
      light: colours('f7f4ea fffdf6 ece6d4 d9d0b8 85795a 2c2416 5f563d 4a5d23 e6ebd3 ffffff ffe08a 99281f'),
      dark: colours('1a1710 231f16 12100a 3d3727 857a5e efe7d2 b3a98c b5cc7a 2e3618 1a2008 6a5410 f29083'),
      ...{ text: 'transitional', heading: 'oldStyle', corner: 2, marks: 'underline' },
    },
  },
  {
    name: 'Terracotta',
    about: 'Fired clay, round corners',
    theme: {
      light: colours('fff7f2 ffffff fbe8dc efd3c3 a07560 33180c 6f4b3b a8380f fde3d5 ffffff ffd27a 8f1d3f'),
      dark: colours('1d120d 281a13 150c08 472f24 96705e f8e6dc c9a797 ff9d73 4a2415 2c1005 74500c ff8fa8'),
      ...{ text: 'geometric', corner: 16 },
    },
  },
  {
    name: 'Frost',
    about: 'Cool and clear',
    theme: {
      light: colours('f5f9fc ffffff e6eff5 cfdde7 6f8696 10222e 4a6170 0b5e8a d6eaf6 ffffff ffe27d a1202e'),
      dark: colours('0e1820 152330 09111a 2a3c4b 6b8598 e3eef6 9bb3c4 74c2ef 123450 06202f 6b5a13 ff8f92'),
      ...{ text: 'humanist', corner: 8, marks: 'weight' },
    },
  },
  {
    name: 'Night garden',
    about: 'Always dark, violet',
    theme: {
      light: colours('faf7ff ffffff efe8fb ddd1ef 82749f 23183a 5f5279 7a1f94 f3e1f9 ffffff ffe08a a01a3c'),
      dark: colours('141020 1d1730 0e0a18 382e54 7d70a6 efe9ff b3a8d6 e59bf5 3b2150 2a0a36 6d5200 ff8a9c'),
      ...{ scheme: 'dark', text: 'instrument', heading: 'bricolage', corner: 4 },
    },
  },
  {
    name: 'Seed packet',
    about: 'Bold letters on yellow, no corners',
    theme: {
      light: colours('fffbe0 fffef5 fff0a8 e6d67a 857a2a 1b1a10 5c5836 14532d d9f0c8 ffffff ffc93c a3221f'),
      dark: colours('17160d 211f13 0f0e08 3f3c22 8a844f f7f2d0 bbb58a f2d54a 3f3a12 241f04 7a5c00 ff938b'),
      ...{ text: 'instrument', heading: 'slab', figures: 'mono', corner: 0 },
    },
  },
];
