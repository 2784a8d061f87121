import { Chance } from '../random.ts';
import {
  dot,
  flower,
  greens,
  ground,
  leaf,
  oval,
  polar,
  pot,
  rosetteFlower,
  round,
  stem,
  tonesOf,
  type Tones,
} from './brush.ts';
import type { Form } from './genera.ts';

/** What a picture shows of a plant. */
export interface Traits {
  id: string;
  form: Form;
  indoor: boolean;
  colours: readonly string[];
  flowers: boolean;
  /** 0 = the smallest of its kind, 1 = the tallest. */
  stature: number;
}

interface Scene {
  chance: Chance;
  green: Tones;
  bloom: Tones;
  traits: Traits;
  /** Where the plant comes out of the ground or the pot. */
  baseY: number;
  /** Height of the drawn plant. */
  tall: number;
}

type Painter = (scene: Scene) => string;

const times = (count: number, draw: (i: number) => string): string =>
  Array.from({ length: count }, (_, i) => draw(i)).join('');

const LEAF_COLOURS = new Set(['green', 'blue-green', 'grey', 'bronze', 'cream']);

/** One painter for each form of growth. */
const PAINTERS: Record<Form, Painter> = {
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

  shrub: ({ chance, traits, baseY, tall, green, bloom }) => {
    const radius = Math.min(98, tall * 0.44);
    const centre = baseY - tall * 0.52;
    const body =
      dot(160, centre, radius * 0.6, green.mid) +
      times(9, (i) => dot(...polar(160, centre, i * 40, radius * 0.56), radius * 0.48, i % 2 ? green.dark : green.mid));
    const wood = times(5, (i) => stem(160, baseY + 2, 112 + i * 24, centre + 10, (i - 2) * 6, '#8a6d4c', 5));
    const leaves = times(80, (i) => {
      const angle = chance.between(0, 360);
      const distance = radius * Math.sqrt(chance.next());
      const [x, y] = polar(160, centre, angle, distance);
      return leaf(x, y + 8, angle, 28, 22, [green.light, green.mid, green.dark][i % 3]!);
    });
    const clusters = traits.flowers
      ? times(chance.whole(7, 10), () => {
          const [x, y] = polar(160, centre, chance.between(0, 360), radius * chance.between(0.2, 1));
          return times(7, (k) => flower(...polar(x, y, k * 60, k === 6 ? 0 : 10.5), 9, 4, bloom, bloom.light, k * 15));
        })
      : '';
    return wood + body + leaves + clusters;
  },

  rose: ({ chance, baseY, tall, green, bloom }) => {
    const count = chance.whole(4, 6);
    const heads = Array.from({ length: count }, (_, i) => {
      const angle = -40 + (80 * i) / (count - 1) + chance.between(-5, 5);
      const [x, y] = polar(160, baseY, angle, tall * (i % 2 ? 0.58 : 0.84) * chance.between(0.92, 1));
      return { x, y, angle };
    });
    const stems = heads.map(({ x, y, angle }) => stem(160, baseY, x, y, angle * 0.3, green.dark, 4)).join('');
    const leaves = times(34, (i) => {
      const [x, y] = polar(160, baseY, chance.between(-52, 52), tall * chance.between(0.16, 0.68));
      return leaf(x, y, chance.between(-90, 90), 30, 19, [green.dark, green.mid, green.light][i % 3]!, {
        vein: green.dark,
      });
    });
    return (
      stems +
      leaves +
      heads.map(({ x, y }) => rosetteFlower(x, y, chance.between(27, 34), bloom, chance.between(0, 60))).join('')
    );
  },

  climber: ({ chance, traits, baseY, green, bloom }) => {
    const wood = '#b59a72';
    const trellis =
      [118, 160, 202].map((x) => `<path d="M${x} ${baseY + 2}V52" stroke="${wood}" stroke-width="4.5"/>`).join('') +
      [84, 130, 176, 220].map((y) => `<path d="M106 ${y}H214" stroke="${wood}" stroke-width="3.5"/>`).join('');
    const vine = `<path d="M160 ${baseY}C110 ${baseY - 30} 108 210 150 196S214 168 204 134S118 124 122 92S170 66 196 56" fill="none" stroke="${green.dark}" stroke-width="4"/>`;
    const leaves = times(52, (i) => {
      const y = baseY - 8 - (i / 52) * (baseY - 54);
      const x = 160 + Math.sin(i * 0.52) * 48 + chance.between(-20, 20);
      return leaf(x, y, chance.between(-120, 120), 30, 21, [green.mid, green.dark, green.light][i % 3]!, {
        belly: 0.35,
      });
    });
    const blossoms = traits.flowers
      ? times(chance.whole(10, 14), (i) =>
          flower(
            160 + Math.sin(i * 1.9) * 50 + chance.between(-12, 12),
            64 + i * 14.5,
            chance.between(14, 19),
            traits.colours[0] === 'white' ? 5 : 6,
            bloom,
            '#f5e39a',
            chance.between(0, 60),
          ),
        )
      : '';
    return trellis + vine + leaves + blossoms;
  },

  tree: ({ chance, traits, baseY, tall, green, bloom }) => {
    const first = traits.colours[0]!;
    const crown = traits.flowers ? green : tonesOf(first === 'white' ? 'green' : first);
    const crownY = baseY - tall * 0.66;
    const bark = first === 'white' && !traits.flowers ? '#e4e0d6' : '#8a6d4c';
    const trunk =
      stem(160, baseY + 4, 160, crownY, chance.between(-8, 8), bark, 13) +
      stem(160, baseY - tall * 0.3, 124, crownY - 8, -6, bark, 7) +
      stem(160, baseY - tall * 0.34, 198, crownY - 4, 6, bark, 7);
    const radius = tall * 0.3;
    const clouds = times(26, (i) => {
      const [x, y] = polar(160, crownY - 6, chance.between(0, 360), radius * 1.15 * Math.sqrt(chance.next()));
      return dot(
        160 + (x - 160) * 1.2,
        y,
        chance.between(18, 28),
        [crown.dark, crown.mid, crown.light, crown.mid][i % 4]!,
        ' opacity=".92"',
      );
    });
    const touches = times(traits.flowers ? 40 : 30, (i) => {
      const [x, y] = polar(160, crownY - 8, chance.between(0, 360), radius * 1.3 * Math.sqrt(chance.next()));
      const cx = 160 + (x - 160) * 1.15;
      return traits.flowers
        ? flower(cx, y, chance.between(8, 12), 5, bloom, bloom.dark, i * 17)
        : leaf(cx, y, chance.between(0, 360), 18, 11, i % 2 ? crown.light : crown.dark);
    });
    return trunk + clouds + touches;
  },

  conifer: ({ chance, traits, baseY, tall }) => {
    const tones = tonesOf(traits.colours[0]!);
    const trunk = `<rect x="153" y="${round(baseY - 24)}" width="14" height="30" fill="#8a6d4c"/>`;
    const tiers = 6;
    return (
      trunk +
      times(tiers, (i) => {
        const y = baseY - 14 - (i * tall * 0.78) / tiers;
        const half = 84 * (1 - i / (tiers + 0.6));
        const height = tall * 0.3;
        return times(15, (k) => {
          const share = k / 14;
          const fill = [tones.dark, tones.mid, tones.light][(k + i) % 3]!;
          return leaf(
            160,
            y - height * 0.6,
            180 - (share - 0.5) * 2 * (half * 0.95),
            height * 0.72 + half * 0.28 * Math.abs(share - 0.5) * 2,
            15,
            fill,
            { bend: chance.between(-4, 4) },
          );
        });
      }) +
      leaf(160, baseY - tall * 0.84, 0, tall * 0.16, 12, tones.light)
    );
  },

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
};

const POTTED = new Set<Form>([
  'foliage',
  'palm',
  'rosette',
  'cactus',
  'herb',
  'fern',
  'trailing',
  'iris',
  'mound',
  'grass',
]);

/** Draws a plant from its own traits: an SVG of 320 by 320, the same for the same traits. */
export function drawPlant(traits: Traits): string {
  const chance = new Chance(`picture ${traits.id}`);
  const hangs = traits.form === 'trailing';
  const potted = (traits.indoor && POTTED.has(traits.form)) || traits.form === 'herb' || hangs;
  const baseY = potted ? 216 : 278;
  const tall = (potted ? 168 : 214) + traits.stature * 24;
  const scene: Scene = {
    chance,
    green: greens(chance),
    bloom: tonesOf(traits.colours[0] ?? 'white'),
    traits,
    baseY,
    tall,
  };
  const plant = PAINTERS[traits.form](scene);
  const stand = potted ? pot(chance) : '';
  // A trailing plant hangs over the edge of a pot that stands higher and is seen behind its vines.
  const drawn = hangs ? `<g transform="translate(0 -70)">${stand}</g>${plant}` : plant + stand;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 320 320" width="320" height="320">${ground(chance)}${drawn}</svg>\n`;
}
