import { dot, flower, leaf, polar, rosetteFlower, round, stem, tonesOf } from '../brush.ts';
import { type Painter, times } from './scene.ts';

/** Shrubs, climbers and trees. */
export const woody = {
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
} satisfies Record<string, Painter>;
