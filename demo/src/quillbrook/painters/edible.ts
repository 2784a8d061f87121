import { dot, leaf, oval, polar, round, stem, tonesOf } from '../brush.ts';
import { type Painter, times } from './scene.ts';

/** Plants to eat. */
export const edible = {
  fruit: ({ chance, baseY, tall, green, bloom }) => {
    const radius = Math.min(116, tall * 0.56);
    const leaves = times(52, (i) => {
      const angle = chance.between(-84, 84);
      const [x, y] = polar(160, baseY, angle, radius * chance.between(0.3, 1.1));
      return leaf(x, y + 10, angle, 44, 46, [green.dark, green.mid, green.light][i % 3]!, { vein: green.dark });
    });
    const berries = times(chance.whole(11, 16), () => {
      const [x, y] = polar(160, baseY - 6, chance.between(-80, 80), radius * chance.between(0.3, 1.1));
      return (
        stem(x, y - 14, x, y - 4, 2, green.dark, 1.6) + dot(x, y, 11, bloom.mid) + dot(x - 3, y - 3, 3, bloom.light)
      );
    });
    return leaves + berries;
  },

  herb: ({ chance, traits, baseY, tall, green, bloom }) => {
    const tones = traits.colours.includes('purple') && !traits.flowers ? tonesOf('purple') : green;
    return times(13, (i) => {
      const angle = -54 + (108 * i) / 12 + chance.between(-4, 4);
      const height = tall * chance.between(0.5, 0.74);
      const [x, y] = polar(160, baseY, angle, height);
      const pairs = times(6, (k) => {
        const [px, py] = polar(160, baseY, angle, height * (0.3 + k * 0.13));
        const size = 25 - k * 1.6;
        return (
          leaf(px, py, angle - 58, size, 13, [tones.mid, tones.dark][k % 2]!) +
          leaf(px, py, angle + 58, size, 13, [tones.light, tones.mid][k % 2]!)
        );
      });
      const tip =
        traits.flowers && i % 2
          ? times(4, (k) => dot(x + (k % 2 ? 4 : -4), y + k * 4 - 6, 4.2, [bloom.mid, bloom.light][k % 2]!))
          : leaf(x, y, angle, 18, 11, tones.light);
      return stem(160, baseY, x, y, angle * 0.15, tones.dark, 2.4) + pairs + tip;
    });
  },

  vegetable: ({ chance, baseY, tall, green, bloom }) => {
    const cane = `<path d="M186 ${baseY}L176 ${round(baseY - tall * 0.98)}" stroke="#b59a72" stroke-width="4"/>`;
    const main = stem(160, baseY, 172, baseY - tall * 0.9, -10, green.dark, 5);
    const leaves = times(24, (i) => {
      const y = baseY - tall * (0.14 + (i / 24) * 0.74);
      const side = i % 2 ? 1 : -1;
      return leaf(
        164,
        y,
        side * chance.between(50, 100),
        chance.between(42, 64),
        32,
        [green.mid, green.dark, green.light][i % 3]!,
        { bend: side * 14, belly: 0.5, vein: green.dark },
      );
    });
    const fruits = times(9, (i) => {
      const x = 164 + (i % 2 ? 1 : -1) * chance.between(16, 42);
      const y = baseY - tall * (0.2 + (i / 9) * 0.56);
      return (
        stem(164, y - 12, x, y - 8, 4, green.dark, 2) +
        oval(x, y + 4, 12.5, 13.5, bloom.mid) +
        oval(x - 4, y - 1, 3.6, 4.4, bloom.light) +
        leaf(x, y - 8, 50, 9, 5, green.dark) +
        leaf(x, y - 8, -50, 9, 5, green.dark)
      );
    });
    return cane + main + leaves + fruits;
  },
} satisfies Record<string, Painter>;
