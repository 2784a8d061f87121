import fc from 'fast-check';
import { THEME_COLOURS, themeFromTokens, themeStyle, themeTokens, TYPEFACES, type Theme } from '../src/index.ts';

const hex = fc.integer({ min: 0, max: 0xffffff }).map((number) => `#${number.toString(16).padStart(6, '0')}`);
const colours = fc.record(Object.fromEntries(THEME_COLOURS.map((name) => [name, hex])));
const face = fc.constantFrom(...(Object.keys(TYPEFACES) as (keyof typeof TYPEFACES)[]));
const theme = fc.record({
  light: colours,
  dark: colours,
  text: face,
  heading: face,
  figures: face,
  corner: fc.integer({ min: 0, max: 24 }),
  size: fc.constantFrom(0.9, 1, 1.2),
}) as fc.Arbitrary<Theme>;

test('a theme comes back from its design tokens as it was', () => {
  fc.assert(
    fc.property(theme, (before) => {
      const file: unknown = JSON.parse(JSON.stringify(themeTokens(before)));
      expect(themeFromTokens(file)).toEqual({ theme: before, left: [] });
    }),
  );
});

test('tokens from elsewhere: types handed down, aliases, colours as components alone, and what is not understood', () => {
  const file = {
    color: {
      $type: 'color',
      light: {
        paper: { $value: '#FFFFFF' },
        raised: { $value: '{color.light.paper}' },
        ink: { $value: { colorSpace: 'srgb', components: [0, 0.5, 1] } },
        accent: { $value: '{color.light.circle}' },
        circle: { $value: '{color.light.accent}' },
        banner: { $value: '#00ff00' },
      },
    },
    corner: { $type: 'dimension', $value: { value: 99, unit: 'px' } },
    shadow: { $type: 'shadow', $value: {} },
  };
  const { theme: read, left } = themeFromTokens(file);
  expect(read).toEqual({ light: { paper: '#ffffff', raised: '#ffffff', ink: '#0080ff' }, corner: 24 });
  expect(left.map((sentence) => sentence.split(':')[0])).toEqual([
    'color.light.accent',
    'color.light.circle',
    'color.light.banner',
    'shadow',
  ]);
  for (const nothing of [null, 7, 'x', [], {}]) expect(themeFromTokens(nothing).theme).toEqual({});
});

test('a style says only what the theme says', () => {
  expect(themeStyle({})).toEqual({});
  expect(themeStyle({ dark: { ink: '#eeeeee' }, scheme: 'dark' })).toEqual({
    '--yucca-ink': 'light-dark(#1f2a24, #eeeeee)',
    '--yucca-scheme': 'dark',
  });
  expect(themeStyle({ text: 'slab' })['--yucca-font-head']).toBe(TYPEFACES.slab);
  expect(themeStyle({ marks: 'weight' })).toMatchObject({
    '--yucca-mark-ground': 'transparent',
    // Titles are not bold then.
    '--yucca-head-weight': '400',
  });
});
