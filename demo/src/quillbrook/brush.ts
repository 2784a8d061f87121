import type { Chance } from '../random.ts';

/** Pieces of SVG that pictures are put together from. Coordinates are in a square of 320; angles in degrees, 0 = up. */

/** Whole units are fine enough at 320 px and keep the files small; short measures keep a decimal. */
export const round = (value: number): string =>
  String(Math.abs(value) < 20 ? Math.round(value * 10) / 10 : Math.round(value));

/** The point at a distance from another, by angle. */
export function polar(x: number, y: number, angle: number, distance: number): [number, number] {
  const radians = ((angle - 90) * Math.PI) / 180;
  return [x + Math.cos(radians) * distance, y + Math.sin(radians) * distance];
}

/** A leaf from its base to its tip, widest at `belly` of its length, bent sideways by `bend`. */
export function leaf(
  x: number,
  y: number,
  angle: number,
  length: number,
  width: number,
  fill: string,
  { bend = 0, belly = 0.45, vein = '' }: { bend?: number; belly?: number; vein?: string } = {},
): string {
  const [tipX, tipY] = polar(x, y, angle + bend, length);
  const [leftX, leftY] = polar(...polar(x, y, angle + bend * 0.3, length * belly), angle - 90, width / 2);
  const [rightX, rightY] = polar(...polar(x, y, angle + bend * 0.3, length * belly), angle + 90, width / 2);
  const outline = `<path d="M${round(x)} ${round(y)}Q${round(leftX)} ${round(leftY)} ${round(tipX)} ${round(tipY)}Q${round(rightX)} ${round(rightY)} ${round(x)} ${round(y)}" fill="${fill}"/>`;
  if (vein === '') return outline;
  const [middleX, middleY] = polar(x, y, angle + bend * 0.3, length * belly);
  return `${outline}<path d="M${round(x)} ${round(y)}Q${round(middleX)} ${round(middleY)} ${round(tipX)} ${round(tipY)}" fill="none" stroke="${vein}" stroke-width="1.4"/>`;
}

export function stem(
  x: number,
  y: number,
  toX: number,
  toY: number,
  bend: number,
  colour: string,
  width: number,
): string {
  const middleX = (x + toX) / 2 + bend;
  const middleY = (y + toY) / 2;
  return `<path d="M${round(x)} ${round(y)}Q${round(middleX)} ${round(middleY)} ${round(toX)} ${round(toY)}" fill="none" stroke="${colour}" stroke-width="${round(width)}" stroke-linecap="round"/>`;
}

export function dot(x: number, y: number, radius: number, fill: string, more = ''): string {
  return `<circle cx="${round(x)}" cy="${round(y)}" r="${round(radius)}" fill="${fill}"${more}/>`;
}

export function oval(x: number, y: number, rx: number, ry: number, fill: string, turn = 0): string {
  const rotate = turn === 0 ? '' : ` transform="rotate(${round(turn)} ${round(x)} ${round(y)})"`;
  return `<ellipse cx="${round(x)}" cy="${round(y)}" rx="${round(rx)}" ry="${round(ry)}" fill="${fill}"${rotate}/>`;
}

/** A flower seen from above: petals around a middle. */
export function flower(
  x: number,
  y: number,
  radius: number,
  petals: number,
  tones: Tones,
  middle: string,
  turn = 0,
): string {
  let text = '';
  const width = Math.min(1.35, 5.2 / petals) * radius;
  for (let i = 0; i < petals; i++) {
    text += leaf(x, y, turn + (360 / petals) * i, radius, width, i % 2 === 0 ? tones.mid : tones.light, {
      belly: 0.72,
    });
  }
  return text + dot(x, y, radius * (petals > 8 ? 0.34 : 0.2), middle);
}

/** A double flower: rings of petals, each turned against the one before. */
export function rosetteFlower(x: number, y: number, radius: number, tones: Tones, turn: number): string {
  let text = '';
  const rings: [number, number, string][] = [
    [1, 8, tones.dark],
    [0.8, 7, tones.mid],
    [0.58, 6, tones.light],
    [0.36, 5, tones.mid],
  ]; // ring: size, petals, colour
  rings.forEach(([share, petals, fill], ring) => {
    for (let i = 0; i < petals; i++) {
      const [px, py] = polar(x, y, turn + (360 / petals) * i + ring * 23, radius * share * 0.52);
      text += oval(px, py, radius * share * 0.5, radius * share * 0.42, fill, turn + (360 / petals) * i + ring * 23);
    }
  });
  return text + dot(x, y, radius * 0.13, tones.dark);
}

export interface Tones {
  light: string;
  mid: string;
  dark: string;
}

const COLOURS: Record<string, Tones> = {
  red: { light: '#e0685c', mid: '#c33c35', dark: '#8f2426' },
  pink: { light: '#f3b6c4', mid: '#e08aa3', dark: '#b9587a' },
  white: { light: '#ffffff', mid: '#f0ede3', dark: '#cfc9b6' },
  yellow: { light: '#fbdf7d', mid: '#efc03e', dark: '#c08f1b' },
  orange: { light: '#f6b26b', mid: '#e58a3a', dark: '#b75f1f' },
  purple: { light: '#b79bd1', mid: '#8a66ad', dark: '#5d3f80' },
  blue: { light: '#9db9e6', mid: '#6a8fd0', dark: '#41639f' },
  cream: { light: '#faf1d6', mid: '#e9d9a8', dark: '#c2ab6c' },
  bronze: { light: '#b98a5a', mid: '#8f6238', dark: '#5f3f23' },
  grey: { light: '#c9d1c8', mid: '#a5b1a8', dark: '#74827a' },
  green: { light: '#9cc069', mid: '#6f9f4b', dark: '#466f35' },
  'blue-green': { light: '#a6c9bb', mid: '#74a596', dark: '#477567' },
};

export function tonesOf(colour: string): Tones {
  return COLOURS[colour] ?? COLOURS.green!;
}

const GREENS: Tones[] = [
  { light: '#8fb567', mid: '#5f8f49', dark: '#3c6434' },
  { light: '#a3bd6e', mid: '#769a4b', dark: '#4f6f35' },
  { light: '#82b287', mid: '#4f8a62', dark: '#2f5f45' },
  { light: '#9fb98f', mid: '#6f9170', dark: '#48684e' },
];

/** A family of greens for one plant. */
export function greens(chance: Chance): Tones {
  return chance.pick(GREENS);
}

const GROUNDS = ['#f3ead6', '#e9efe2', '#f4e6dc', '#e6ecef', '#efe7ee', '#f1efdf'];

/** The card a plant is drawn on: a plain tint, and a soft shade where it stands. */
export function ground(chance: Chance): string {
  return `<rect width="320" height="320" fill="${chance.pick(GROUNDS)}"/><ellipse cx="160" cy="282" rx="104" ry="13" fill="#00000014"/>`;
}

const CLAYS: [string, string][] = [
  ['#c57a52', '#a8613d'],
  ['#d9cdb6', '#bfb196'],
  ['#7d8f8a', '#64756f'],
  ['#b5655a', '#974e45'],
]; // body, rim

/** A pot that stands on the ground; its rim is at 218. */
export function pot(chance: Chance): string {
  const [body, rim] = chance.pick(CLAYS);
  const width = chance.between(52, 62);
  return `<path d="M${round(160 - width)} 224L${round(160 - width * 0.72)} 284H${round(160 + width * 0.72)}L${round(160 + width)} 224Z" fill="${body}"/><rect x="${round(160 - width - 5)}" y="212" width="${round(width * 2 + 10)}" height="15" rx="4" fill="${rim}"/>`;
}
