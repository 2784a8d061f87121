/** The colours of a theme by what they are for. */
export const THEME_COLOURS = [
  'paper',
  'raised',
  'sunk',
  'line',
  'edge',
  'ink',
  'soft',
  'accent',
  'accentTint',
  'onAccent',
  'mark',
  'danger',
] as const;

export type ThemeColour = (typeof THEME_COLOURS)[number];

/** Whole families of faces, each with what stands in where the first is missing. */
export const TYPEFACES = {
  system: 'system-ui, sans-serif',
  humanist: 'Seravek, "Gill Sans Nova", Ubuntu, Calibri, "DejaVu Sans", sans-serif',
  geometric: 'Avenir, Montserrat, Corbel, "URW Gothic", sans-serif',
  oldStyle: '"Iowan Old Style", "Palatino Linotype", "URW Palladio L", P052, serif',
  transitional: 'Charter, "Bitstream Charter", "Sitka Text", Cambria, serif',
  slab: 'Rockwell, "Rockwell Nova", "Roboto Slab", "DejaVu Serif", "Sitka Small", serif',
  mono: 'ui-monospace, "Cascadia Code", "Source Code Pro", Menlo, "DejaVu Sans Mono", monospace',
  bricolage: '"Bricolage Grotesque Variable", system-ui, sans-serif',
  instrument: '"Instrument Sans Variable", system-ui, sans-serif',
  plexMono: '"IBM Plex Mono", ui-monospace, monospace',
} as const;

export type Typeface = keyof typeof TYPEFACES;

const TYPEFACE_NAMES = Object.keys(TYPEFACES) as Typeface[];
const colour = { type: 'string', pattern: '^#[0-9a-fA-F]{6}$' } as const;
const colours = {
  type: 'object',
  additionalProperties: false,
  properties: {
    paper: { ...colour, description: 'The page.' },
    raised: { ...colour, description: 'Cards and fields.' },
    sunk: { ...colour, description: 'What lies below, such as a button that is pointed at.' },
    line: { ...colour, description: 'Rules between things.' },
    edge: { ...colour, description: 'Outlines of what can be worked.' },
    ink: { ...colour, description: 'Text.' },
    soft: { ...colour, description: 'Text that matters less.' },
    accent: { ...colour, description: 'Links, buttons, what is chosen.' },
    accentTint: { ...colour, description: 'The ground of what is chosen.' },
    onAccent: { ...colour, description: 'Text on a button.' },
    mark: { ...colour, description: 'Behind the letters that were found.' },
    danger: { ...colour, description: 'What went wrong.' },
  },
} as const;

/** How a page looks. What is left out is as without a theme. */
export const themeSchema = {
  type: 'object',
  additionalProperties: false,
  description: 'How the page looks; exchanged as design tokens (DTCG).',
  properties: {
    scheme: {
      enum: ['both', 'light', 'dark'],
      default: 'both',
      description: 'both: as the visitor’s system has it.',
    },
    light: colours,
    dark: colours,
    text: { enum: TYPEFACE_NAMES, description: 'The face of running text.' },
    heading: { enum: TYPEFACE_NAMES, description: 'The face of titles. Default: that of the text.' },
    figures: { enum: TYPEFACE_NAMES, description: 'The face of counts and prices.' },
    corner: { type: 'integer', minimum: 0, maximum: 24, default: 6, description: 'In pixels.' },
    size: {
      type: 'number',
      minimum: 0.85,
      maximum: 1.3,
      default: 1,
      description: 'Of all there is: 1.1 is a tenth larger.',
    },
    marks: {
      enum: ['ground', 'underline', 'weight'],
      default: 'ground',
      description: 'How the letters that were found stand out.',
    },
  },
} as const;

/** Written out: read from its schema it would take the compiler minutes. A test holds the two together. */
export interface Theme {
  scheme?: 'both' | 'light' | 'dark';
  light?: Partial<Record<ThemeColour, string>>;
  dark?: Partial<Record<ThemeColour, string>>;
  text?: Typeface;
  heading?: Typeface;
  figures?: Typeface;
  corner?: number;
  size?: number;
  marks?: 'ground' | 'underline' | 'weight';
}
