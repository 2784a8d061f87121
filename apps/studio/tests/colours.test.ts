import { readFileSync } from 'node:fs';
import path from 'node:path';

const css = readFileSync(path.join(__dirname, '../src/app/globals.css'), 'utf8');

/** The tokens of the style sheet, light and dark. */
const tokens = new Map(
  [...css.matchAll(/--([a-z-]+): light-dark\((#[0-9a-f]{6}), (#[0-9a-f]{6})\)/g)].map(([, name, light, dark]) => [
    name!,
    { light: light!, dark: dark! },
  ]),
);

/** Relative luminance and contrast as WCAG 2.2 defines them. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const share = parseInt(hex.slice(at, at + 2), 16) / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}

function contrast(a: string, b: string): number {
  const [high, low] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (high! + 0.05) / (low! + 0.05);
}

const TEXT_ON: [text: string, ground: string[]][] = [
  ['ink', ['paper', 'raised', 'sunk', 'ochre', 'agave-tint', 'clay-tint']],
  ['ink-soft', ['paper', 'raised', 'sunk', 'agave-tint']],
  ['agave', ['paper', 'raised', 'sunk', 'agave-tint']],
  ['clay', ['paper', 'raised', 'sunk', 'clay-tint']],
  ['plum', ['paper', 'raised', 'sunk']],
  ['madder', ['paper', 'raised', 'sunk']],
  ['on-agave', ['agave']],
  ['paper', ['ink']],
];

describe.each(['light', 'dark'] as const)('%s', (theme) => {
  test.each(TEXT_ON.flatMap(([text, grounds]) => grounds.map((ground) => [text, ground])))(
    '%s is legible on %s',
    (text, ground) => {
      expect(contrast(tokens.get(text!)![theme], tokens.get(ground!)![theme])).toBeGreaterThanOrEqual(4.5);
    },
  );

  test.each(['paper', 'raised'])('the edge of a field can be seen on %s', (ground) => {
    expect(contrast(tokens.get('field-line')![theme], tokens.get(ground)![theme])).toBeGreaterThanOrEqual(3);
  });
});
