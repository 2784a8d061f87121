import { dot, flower, leaf, polar, round, stem, tonesOf } from '../brush.ts';
import { LEAF_COLOURS, type Painter, times } from './scene.ts';

/** Plants most at home in a pot or a rock garden. */
export const potted = {
  rosette: ({ chance, traits, baseY, tall, green }) => {
    const first = traits.colours[0] ?? 'green';
    const tones = LEAF_COLOURS.has(first) ? tonesOf(first) : green;
    const long = tall * 0.7;
    const rings = [1, 0.86, 0.7, 0.52, 0.34];
    return rings
      .map((share, ring) => {
        const count = 9 - ring;
        const spread = 84 - ring * 11;
        return times(count, (i) => {
          const angle = -spread + (2 * spread * i) / (count - 1) + chance.between(-3, 3);
          const fill = [tones.dark, tones.mid, tones.light][(i + ring) % 3]!;
          return leaf(160, baseY, angle, long * share * chance.between(0.92, 1.05), 46 - ring * 3, fill, {
            belly: 0.36,
            vein: tones.dark,
          });
        });
      })
      .join('');
  },

  cactus: ({ chance, traits, baseY, tall, green, bloom }) => {
    const columns = chance.whole(1, 3);
    const offsets = columns === 1 ? [0] : columns === 2 ? [-26, 26] : [0, -44, 44];
    return offsets
      .map((offset, n) => {
        const height = tall * (n === 0 ? 0.8 : chance.between(0.42, 0.62));
        const width = n === 0 ? 62 : 42;
        const x = 160 + offset;
        const top = baseY - height;
        const body = `<rect x="${round(x - width / 2)}" y="${round(top)}" width="${width}" height="${round(height + 6)}" rx="${width / 2}" fill="${green.mid}"/>`;
        const ribs = times(4, (i) => {
          const ribX = x - width / 2 + (width * (i + 1)) / 5;
          return `<path d="M${round(ribX)} ${round(top + 14 + Math.abs(i - 1.5) * 5)}V${round(baseY)}" stroke="${i % 2 ? green.light : green.dark}" stroke-width="3" stroke-linecap="round"/>`;
        });
        const spines = times(Math.round(height / 16), (i) =>
          times(3, (k) => dot(x - width / 4 + (k * width) / 4, top + 20 + i * 16, 1.7, '#fff8e6')),
        );
        const crown = traits.flowers ? flower(x, top + 4, 16, 8, bloom, '#f2d16b', chance.between(0, 40)) : '';
        return body + ribs + spines + crown;
      })
      .join('');
  },

  palm: ({ chance, baseY, tall, green }) => {
    const crownY = baseY - tall * 0.36;
    const trunk = stem(160, baseY + 4, 160, crownY, chance.between(-10, 10), '#9a7b56', 11);
    const count = 15;
    return (
      trunk +
      times(count, (i) => {
        const side = i % 2 === 0 ? 1 : -1;
        const angle = side * (8 + Math.floor(i / 2) * 15) + chance.between(-5, 5);
        const fill = [green.mid, green.light, green.dark][i % 3]!;
        return leaf(160, crownY + 4, angle, tall * chance.between(0.46, 0.6), 17, fill, {
          bend: side * 20,
          vein: green.dark,
        });
      })
    );
  },

  foliage: ({ chance, traits, baseY, tall, green, bloom }) => {
    const count = chance.whole(8, 11);
    const second = traits.colours.find((colour) => colour !== 'green');
    const vein =
      second && LEAF_COLOURS.has(second)
        ? tonesOf(second).light
        : second && !traits.flowers
          ? tonesOf(second).light
          : green.dark;
    return times(count, (i) => {
      const angle = -62 + (124 * i) / (count - 1) + chance.between(-6, 6);
      const [x, y] = polar(160, baseY, angle * 0.9, tall * chance.between(0.42, 0.72));
      const size = 82 - Math.abs(angle) * 0.25;
      const fill = [green.mid, green.dark, green.light][i % 3]!;
      const blossom = traits.flowers && i % 3 === 1 ? flower(x, y - 12, 12, 5, bloom, '#f6e3a0', i * 20) : '';
      return (
        stem(160, baseY, x, y, chance.between(-8, 8), green.dark, 3.4) +
        leaf(x, y + 20, angle * 0.8, size, size * 1.3, fill, { belly: 0.42, vein }) +
        blossom
      );
    });
  },

  trailing: ({ chance, traits, green, bloom }) => {
    const vines = 9;
    return times(vines, (i) => {
      const startX = 108 + (104 * i) / (vines - 1);
      const side = i < vines / 2 ? -1 : 1;
      const long = chance.between(60, 128);
      const endX = startX + side * chance.between(18, 46);
      const rise = chance.between(18, 44);
      const path = `<path d="M${round(160 + (startX - 160) * 0.5)} 150Q${round(startX)} ${round(150 - rise)} ${round(endX)} ${round(150 + long)}" fill="none" stroke="${green.dark}" stroke-width="2.6"/>`;
      return (
        path +
        times(7, (k) => {
          const t = (k + 1) / 7;
          const x = (1 - t) ** 2 * (160 + (startX - 160) * 0.5) + 2 * t * (1 - t) * startX + t * t * endX;
          const y = (1 - t) ** 2 * 150 + 2 * t * (1 - t) * (150 - rise) + t * t * (150 + long);
          const fill = [green.mid, green.light, green.dark][(k + i) % 3]!;
          const blossom = traits.flowers && (k + i) % 3 === 0 ? flower(x, y, 11, 5, bloom, '#f6e3a0', k * 30) : '';
          return leaf(x, y, (k % 2 ? 60 : -60) + 150, 24, 17, fill) + blossom;
        })
      );
    });
  },

  fern: ({ chance, baseY, tall, green }) => {
    const fronds = 11;
    return times(fronds, (i) => {
      const angle = -74 + (148 * i) / (fronds - 1) + chance.between(-4, 4);
      const long = tall * (0.86 - Math.abs(angle) / 260);
      const bend = angle * 0.34;
      const fill = [green.dark, green.mid, green.light][i % 3]!;
      let text = '';
      for (let k = 2; k <= 12; k++) {
        const share = k / 12;
        const [x, y] = polar(160, baseY, angle + bend * share * share, long * share);
        const size = 34 * Math.sin(Math.PI * (0.12 + share * 0.86)) + 4;
        const direction = angle + bend * share * 1.6;
        text += leaf(x, y, direction - 62, size, 7.5, fill) + leaf(x, y, direction + 62, size, 7.5, fill);
      }
      const [tipX, tipY] = polar(160, baseY, angle + bend, long);
      const [midX, midY] = polar(160, baseY, angle + bend * 0.25, long * 0.5);
      return `${text}<path d="M160 ${round(baseY)}Q${round(midX)} ${round(midY)} ${round(tipX)} ${round(tipY)}" fill="none" stroke="${green.dark}" stroke-width="2"/>`;
    });
  },
} satisfies Record<string, Painter>;
