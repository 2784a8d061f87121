import { THEME_COLOURS, TYPEFACES, type Theme, type ThemeColour } from './schema.ts';

/** What a page has that no theme was chosen for: light and dark. */
export const USUAL_COLOURS: Readonly<Record<'light' | 'dark', Readonly<Record<ThemeColour, string>>>> = {
  light: {
    ...{ paper: '#fbf8f1', raised: '#ffffff', sunk: '#f1ece0', line: '#ddd5c3', edge: '#8a8672', ink: '#1f2a24' },
    ...{ soft: '#59645d', accent: '#1e5b4a', accentTint: '#dce9e2', onAccent: '#ffffff', mark: '#f3cf6b' },
    danger: '#9e2a2b',
  },
  dark: {
    ...{ paper: '#151a17', raised: '#1c231f', sunk: '#101412', line: '#313b35', edge: '#6f7b73', ink: '#ece7da' },
    ...{ soft: '#a5afa7', accent: '#7cc4a8', accentTint: '#1d3a30', onAccent: '#10211b', mark: '#6b5416' },
    danger: '#f08a84',
  },
};

/** The custom property a colour is known by to style sheets: `accentTint` is `--yucca-accent-tint`. */
export const propertyOf = (colour: ThemeColour): string =>
  `--yucca-${colour.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`;

/** The colour a theme has for something; where it says nothing, the usual one. */
export const colourOf = (theme: Theme, mode: 'light' | 'dark', colour: ThemeColour): string =>
  theme[mode]?.[colour] ?? USUAL_COLOURS[mode][colour];

/**
 * A theme as CSS properties and their values, for the element a page hangs on. Only what the theme says is in it: all
 * else stays with the style sheet, or the page around.
 */
export function themeStyle(theme: Theme): Record<string, string> {
  const style: Record<string, string> = {};
  for (const colour of THEME_COLOURS) {
    if (theme.light?.[colour] === undefined && theme.dark?.[colour] === undefined) continue;
    style[propertyOf(colour)] = `light-dark(${colourOf(theme, 'light', colour)}, ${colourOf(theme, 'dark', colour)})`;
  }
  const { scheme, text, heading, figures, corner, size, marks } = theme;
  if (scheme !== undefined && scheme !== 'both') style['--yucca-scheme'] = scheme;
  if (text !== undefined) style['--yucca-font'] = TYPEFACES[text];
  if (heading !== undefined || text !== undefined) style['--yucca-font-head'] = TYPEFACES[(heading ?? text)!];
  if (figures !== undefined) style['--yucca-font-figures'] = TYPEFACES[figures];
  if (corner !== undefined) style['--yucca-corner'] = `${corner}px`;
  if (size !== undefined && size !== 1) style['--yucca-size'] = String(size);
  if (marks === 'underline' || marks === 'weight') {
    style['--yucca-mark-ground'] = 'transparent';
    if (marks === 'weight') {
      style['--yucca-mark-weight'] = '700';
      // In a bold title nobody would see them.
      style['--yucca-head-weight'] = '400';
    } else style['--yucca-mark-line'] = `underline 2px ${light(theme)}`;
  }
  return style;
}

const light = (theme: Theme): string =>
  `light-dark(${colourOf(theme, 'light', 'accent')}, ${colourOf(theme, 'dark', 'accent')})`;

/** Black or white: whichever can be read better on a colour (`#rrggbb`), by its relative luminance (WCAG 2.2). */
export function inkOn(colour: string): '#000000' | '#ffffff' {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const part = parseInt(colour.slice(at, at + 2), 16) / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  const luminance = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  // Where the two contrasts, (L + 0.05) / 0.05 and 1.05 / (L + 0.05), are the same.
  return luminance > Math.sqrt(1.05 * 0.05) - 0.05 ? '#000000' : '#ffffff';
}
