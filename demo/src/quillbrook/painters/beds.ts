import { dot, flower, leaf, oval, polar, round, stem, tonesOf } from '../brush.ts';
import { LEAF_COLOURS, type Painter, times } from './scene.ts';

/** Plants of beds and borders. */
export const beds = {
  grass: ({ chance, traits, baseY, tall, green, bloom }) => {
    const first = traits.colours[0] ?? 'green';
    const tones = LEAF_COLOURS.has(first) && first !== 'cream' ? tonesOf(first) : green;
    const blades = times(34, (i) => {
      const angle = -56 + (112 * i) / 33 + chance.between(-4, 4);
      return leaf(
        160 + angle * 0.28,
        baseY,
        angle * 0.8,
        tall * chance.between(0.6, 0.88),
        7,
        [tones.mid, tones.light, tones.dark][i % 3]!,
        { bend: angle * 0.5, belly: 0.3 },
      );
    });
    if (!traits.flowers) return blades;
    const plumes = times(7, (i) => {
      const angle = -30 + i * 10 + chance.between(-3, 3);
      const [x, y] = polar(160, baseY, angle, tall * chance.between(0.84, 0.98));
      return (
        stem(160 + angle * 0.4, baseY, x, y, angle * 0.2, tones.dark, 2) +
        leaf(...polar(x, y, angle + 180, 16), angle, 56, 17, i % 2 ? bloom.light : bloom.mid, {
          belly: 0.4,
          bend: angle * 0.3,
        })
      );
    });
    return blades + plumes;
  },

  spire: ({ chance, traits, baseY, tall, green, bloom }) => {
    const base = times(13, (i) =>
      leaf(
        160 + (i - 6) * 4,
        baseY,
        -66 + i * 11,
        tall * chance.between(0.28, 0.42),
        13,
        [green.mid, green.dark, green.light][i % 3]!,
        { vein: green.dark },
      ),
    );
    const count = chance.whole(5, 8);
    return (
      times(count, (i) => {
        const angle = count === 1 ? 0 : -30 + (60 * i) / (count - 1) + chance.between(-3, 3);
        const height = tall * chance.between(0.78, 1) * (1 - Math.abs(angle) / 160);
        const [x, y] = polar(160, baseY, angle, height);
        const florets = 11;
        return (
          stem(160 + angle * 0.3, baseY, x, y, angle * 0.15, green.dark, 3) +
          times(florets, (k) => {
            const share = 0.46 + (0.54 * k) / (florets - 1);
            const [fx, fy] = polar(160 + angle * 0.3 * (1 - share), baseY, angle, height * share);
            const size = 8.4 * (1.18 - (k / florets) * 0.72);
            const tone = [bloom.dark, bloom.mid, bloom.light][(k + i) % 3]!;
            return (
              oval(fx - size * 0.8, fy, size, size * 0.78, tone, -25) +
              oval(fx + size * 0.8, fy + 2, size, size * 0.78, bloom.mid, 25)
            );
          }) +
          (traits.flowers ? dot(x, y - 2, 3, bloom.light) : '')
        );
      }) + base
    );
  },

  daisy: ({ chance, baseY, tall, green, bloom, traits }) => {
    const count = chance.whole(5, 8);
    const middle = traits.colours[0] === 'yellow' || traits.colours[0] === 'orange' ? '#5b3a21' : '#e8b93c';
    const petals = chance.pick([9, 11, 13]);
    const heads = Array.from({ length: count }, (_, i) => {
      const angle = -44 + (88 * i) / (count - 1) + chance.between(-5, 5);
      const [x, y] = polar(
        160,
        baseY,
        angle,
        tall * (i % 2 ? 0.64 : 0.92) * chance.between(0.9, 1) * (1 - Math.abs(angle) / 240),
      );
      return { x, y, angle };
    });
    const stems = heads
      .map(
        ({ x, y, angle }) =>
          stem(160, baseY, x, y, angle * 0.2, green.dark, 3) +
          leaf(...polar(160, baseY, angle, tall * 0.28), angle + 40, 34, 13, green.mid) +
          leaf(...polar(160, baseY, angle, tall * 0.38), angle - 40, 30, 12, green.light),
      )
      .join('');
    const leaves = times(9, (i) =>
      leaf(160, baseY, -70 + i * 17.5, tall * 0.32, 16, [green.mid, green.dark][i % 2]!, { vein: green.dark }),
    );
    return (
      stems +
      leaves +
      heads
        .map(({ x, y }) => flower(x, y, chance.between(25, 33), petals, bloom, middle, chance.between(0, 30)))
        .join('')
    );
  },

  bulb: ({ chance, baseY, tall, green, bloom }) => {
    const count = chance.whole(3, 6);
    const leaves = times(count * 2 + 2, (i) => {
      const angle = -40 + (80 * i) / (count * 2 + 1) + chance.between(-4, 4);
      return leaf(
        160 + angle * 0.7,
        baseY,
        angle * 0.7,
        tall * chance.between(0.48, 0.66),
        16,
        [green.mid, green.light, green.dark][i % 3]!,
        { bend: angle * 0.3, vein: green.dark },
      );
    });
    const heads = times(count, (i) => {
      const angle = count === 1 ? 0 : -26 + (52 * i) / (count - 1) + chance.between(-3, 3);
      const [x, y] = polar(160 + angle * 0.8, baseY, angle, tall * chance.between(0.72, 0.9));
      const size = chance.between(30, 36);
      return (
        stem(160 + angle * 0.8, baseY, x, y, angle * 0.2, green.mid, 4) +
        leaf(x, y + size * 0.55, angle - 20, size * 1.45, size * 0.9, bloom.dark, { belly: 0.4 }) +
        leaf(x, y + size * 0.55, angle + 20, size * 1.45, size * 0.9, bloom.mid, { belly: 0.4 }) +
        leaf(x, y + size * 0.55, angle, size * 1.5, size * 0.95, bloom.light, { belly: 0.42 })
      );
    });
    return leaves + heads;
  },

  mound: ({ chance, traits, baseY, tall, green, bloom }) => {
    const second = traits.colours[0]!;
    const tones = !traits.flowers || LEAF_COLOURS.has(second) ? tonesOf(second) : green;
    const radius = Math.min(112, tall * 0.58);
    const leaves = times(64, (i) => {
      const angle = chance.between(-88, 88);
      const distance = radius * Math.sqrt(chance.next());
      const [x, y] = polar(160, baseY - 4, angle, distance);
      return leaf(
        160 + (x - 160) * 1.12,
        y + 12,
        angle * 0.8,
        chance.between(36, 48),
        chance.between(34, 44),
        [tones.dark, tones.mid, tones.light][i % 3]!,
        { belly: 0.5 },
      );
    });
    if (!traits.flowers) return leaves;
    const blossoms = times(chance.whole(9, 14), (i) => {
      const [x, y] = polar(160, baseY - 8, chance.between(-80, 80), radius * chance.between(0.45, 1.12));
      return flower(
        160 + (x - 160) * 1.1,
        y,
        chance.between(15, 20),
        5,
        bloom,
        i % 2 ? '#f4d774' : bloom.dark,
        chance.between(0, 70),
      );
    });
    return leaves + blossoms;
  },

  iris: ({ chance, baseY, tall, green, bloom }) => {
    const leaves = times(11, (i) => {
      const angle = -42 + i * 8.4;
      return leaf(
        160 + angle * 0.5,
        baseY,
        angle * 0.66,
        tall * chance.between(0.58, 0.8),
        13,
        [green.mid, green.dark, green.light][i % 3]!,
        { bend: angle * 0.25, belly: 0.35, vein: green.dark },
      );
    });
    const count = chance.whole(3, 5);
    const heads = times(count, (i) => {
      const angle = -28 + (56 * i) / (count - 1) + chance.between(-3, 3);
      const [x, y] = polar(160 + angle * 0.5, baseY, angle, tall * (i % 2 ? 0.74 : 0.92));
      const size = 33;
      const petal = (turn: number, fill: string): string =>
        leaf(x, y, turn, size, size * 0.84, fill, { belly: 0.62, vein: bloom.dark });
      return (
        stem(160 + angle * 0.5, baseY, x, y, 0, green.dark, 3.6) +
        [120, 180, 240].map((turn) => petal(turn, bloom.dark)).join('') +
        [0, 60, 300].map((turn) => petal(turn, bloom.light)).join('') +
        dot(x, y, 6, '#f0c84b')
      );
    });
    return leaves + heads;
  },

  umbel: ({ chance, baseY, tall, green, bloom }) => {
    const leaves = times(13, (i) =>
      leaf(
        160,
        baseY,
        -72 + i * 12,
        tall * chance.between(0.3, 0.46),
        10,
        [green.mid, green.dark, green.light][i % 3]!,
        { bend: (i - 6) * 4 },
      ),
    );
    const count = chance.whole(4, 6);
    const heads = times(count, (i) => {
      const angle = -34 + (68 * i) / (count - 1) + chance.between(-4, 4);
      const [x, y] = polar(160, baseY, angle, tall * (i % 2 ? 0.66 : 0.88));
      const radius = chance.between(26, 33);
      return (
        stem(160, baseY, x, y, angle * 0.2, green.dark, 3.2) +
        times(26, (k) => {
          const ring = k < 16 ? 1 : 0.56;
          const [px, py] = polar(x, y, (360 / (k < 16 ? 16 : 10)) * k + i * 9, radius * ring);
          return (
            `<path d="M${round(x)} ${round(y)}L${round(px)} ${round(py)}" stroke="${bloom.dark}" stroke-width="1.1"/>` +
            dot(px, py, 5.6, [bloom.mid, bloom.light, bloom.dark][k % 3]!)
          );
        })
      );
    });
    return leaves + heads;
  },
} satisfies Record<string, Painter>;
