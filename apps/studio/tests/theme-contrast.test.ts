import { colourOf, STARTING_THEMES, THEME_COLOURS, USUAL_COLOURS, type Theme } from '@yucca/contract';
import fc from 'fast-check';
import { COLOUR_PAIRS, contrastOf, nearestThat, weakPairs } from '../src/features/page/contrast';
import { validate } from '../src/server/validate';

const MODES = ['light', 'dark'] as const;
const hex = fc.integer({ min: 0, max: 0xffffff }).map((number) => `#${number.toString(16).padStart(6, '0')}`);

test.each(STARTING_THEMES.flatMap((house) => MODES.map((mode) => [house.name, mode, house] as const)))(
  '%s, %s: every pair of colours is told apart',
  (_, mode, { theme }) => {
    expect(weakPairs(theme, mode)).toEqual([]);
    expect(Object.keys(theme[mode] ?? {})).toEqual([...THEME_COLOURS]);
    validate('Interface', { collection: 'plants', theme });
  },
);

test('no two of them look the same, and a page without a theme is told apart too', () => {
  expect(new Set(STARTING_THEMES.map(({ theme }) => colourOf(theme, 'light', 'accent'))).size).toBe(
    STARTING_THEMES.length,
  );
  for (const mode of MODES) expect(weakPairs({}, mode)).toEqual([]);
});

test('contrast is that of WCAG', () => {
  expect(contrastOf('#000000', '#ffffff')).toBeCloseTo(21, 5);
  expect(contrastOf('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
});

test('a weak pair comes with the nearest colour that is enough on all that it stands on', () => {
  fc.assert(
    fc.property(hex, fc.constantFrom(...MODES), (ink, mode) => {
      const theme: Theme = { [mode]: { soft: ink } };
      const grounds = COLOUR_PAIRS.filter(({ colour }) => colour === 'soft');
      for (const { better, colour } of weakPairs(theme, mode)) {
        expect(colour).toBe('soft');
        if (better === null) continue;
        for (const { ground, least } of grounds)
          expect(contrastOf(better, USUAL_COLOURS[mode][ground])).toBeGreaterThanOrEqual(least);
      }
    }),
  );
});

test('the nearest colour is the colour itself where it does, and none where none does', () => {
  expect(nearestThat('#1e5b4a', () => true)).toBe('#1e5b4a');
  expect(nearestThat('#1e5b4a', () => false)).toBeNull();
});
