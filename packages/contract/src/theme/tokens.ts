import { THEME_COLOURS, TYPEFACES, type Theme, type ThemeColour, type Typeface } from './schema.ts';
import { colourOf } from './style.ts';

/**
 * A theme as design tokens and back, in the format of the Design Tokens Community Group (Format Module 2025.10 and
 * Color Module 2025.10): colours are sRGB components with their hexadecimal form, sizes are numbers with a unit.
 */

type Token = { $type: string; $value: unknown; $description?: string };
export type TokenFile = { [group: string]: unknown };

const MODES = ['light', 'dark'] as const;

function colourToken(hex: string): Token {
  const components = [1, 3, 5].map((at) => Number((parseInt(hex.slice(at, at + 2), 16) / 255).toFixed(4)));
  return { $type: 'color', $value: { colorSpace: 'srgb', components, hex } };
}

/** All a theme says, and the usual colours where it says nothing, so that the file stands for itself. */
export function themeTokens(theme: Theme): TokenFile {
  const face = (name: Typeface | undefined): Token[] =>
    name === undefined ? [] : [{ $type: 'fontFamily', $value: familiesOf(TYPEFACES[name]) }];
  const [text, heading, figures] = [face(theme.text), face(theme.heading), face(theme.figures)];
  return {
    color: Object.fromEntries(
      MODES.map((mode) => [
        mode,
        Object.fromEntries(THEME_COLOURS.map((colour) => [colour, colourToken(colourOf(theme, mode, colour))])),
      ]),
    ),
    font: {
      ...(text[0] && { text: text[0] }),
      ...(heading[0] && { heading: heading[0] }),
      ...(figures[0] && { figures: figures[0] }),
    },
    corner: { $type: 'dimension', $value: { value: theme.corner ?? 6, unit: 'px' } },
    size: { $type: 'number', $value: theme.size ?? 1 },
  };
}

const familiesOf = (stack: string): string[] => stack.split(',').map((family) => family.trim().replaceAll('"', ''));

/** What a file of tokens says of a theme, and what of it could not be used. */
export interface TokensRead {
  theme: Theme;
  /** Sentences: tokens that are not understood, with their paths. */
  left: string[];
}

/** Reads a file of design tokens. Groups may hand down their `$type`; aliases (`{color.light.ink}`) are followed. */
export function themeFromTokens(file: unknown): TokensRead {
  const tokens = new Map<string, Token>();
  collect(file, [], null, tokens);
  const theme: Theme = {};
  const left: string[] = [];
  for (const [path, token] of tokens) {
    if (!take(theme, path, resolved(token.$value, tokens)))
      left.push(`${path}: ${JSON.stringify(token.$value)} has no place in a theme here`);
  }
  return { theme, left };
}

function collect(group: unknown, path: string[], type: string | null, into: Map<string, Token>): void {
  if (typeof group !== 'object' || group === null || path.length > 16) return;
  const own = group as Record<string, unknown>;
  const $type = typeof own.$type === 'string' ? own.$type : (type ?? '');
  if ('$value' in own) return void into.set(path.join('.'), { $type, $value: own.$value });
  for (const [name, inner] of Object.entries(own))
    if (!name.startsWith('$')) collect(inner, [...path, name], $type, into);
}

/** The value behind an alias, as far as there is one; what goes round in a circle is nothing. */
function resolved(value: unknown, tokens: ReadonlyMap<string, Token>, steps = 0): unknown {
  const name = typeof value === 'string' ? /^\{([^{}]+)\}$/.exec(value)?.[1] : undefined;
  if (name === undefined) return value;
  return steps > 16 ? undefined : resolved(tokens.get(name)?.$value, tokens, steps + 1);
}

function take(theme: Theme, path: string, value: unknown): boolean {
  const [group, first, second] = path.split('.');
  if (group === 'color' && (first === 'light' || first === 'dark') && second !== undefined) {
    const hex = hexOf(value);
    const colour = THEME_COLOURS.find((one) => one === second);
    if (hex === null || colour === undefined) return false;
    theme[first] = { ...theme[first], [colour]: hex } as Record<ThemeColour, string>;
    return true;
  }
  if (group === 'font' && (first === 'text' || first === 'heading' || first === 'figures')) {
    const wanted = (Array.isArray(value) ? value : [value]).map(String);
    const face = (Object.keys(TYPEFACES) as Typeface[]).find((name) => familiesOf(TYPEFACES[name])[0] === wanted[0]);
    if (face === undefined) return false;
    theme[first] = face;
    return true;
  }
  const measure = typeof value === 'object' && value !== null ? (value as { value?: unknown }).value : value;
  const number = typeof measure === 'string' ? parseFloat(measure) : measure;
  if (typeof number !== 'number' || Number.isNaN(number)) return false;
  if (path === 'corner') theme.corner = Math.min(24, Math.max(0, Math.round(number)));
  else if (path === 'size') theme.size = Math.min(1.3, Math.max(0.85, number));
  else return false;
  return true;
}

function hexOf(value: unknown): string | null {
  if (typeof value === 'string') return /^#[0-9a-f]{6}$/i.test(value) ? value.toLowerCase() : null;
  if (typeof value !== 'object' || value === null) return null;
  const { colorSpace, components, hex } = value as { colorSpace?: unknown; components?: unknown; hex?: unknown };
  if (colorSpace !== 'srgb' || !Array.isArray(components) || components.length !== 3) return hexOf(hex ?? null);
  const parts = components.map((part) =>
    typeof part === 'number' ? Math.round(Math.min(1, Math.max(0, part)) * 255) : 0,
  );
  return `#${parts.map((part) => part.toString(16).padStart(2, '0')).join('')}`;
}
