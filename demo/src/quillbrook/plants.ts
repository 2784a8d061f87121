import { capital, Chance } from '../random.ts';
import { GENERA, type Genus, type Species } from './genera.ts';
import type { Traits } from './painters/scene.ts';
import {
  CARE_MORE,
  CULTIVAR_FIRST,
  CULTIVAR_SECOND,
  MONTHS,
  OPENING,
  PLACING,
  plural,
  SUPPLIERS,
  TRAITS,
  WATERING,
  withArticle,
} from './words.ts';

/** A sale item of the nursery, as it goes into the collection `plants`. */
export interface Plant {
  id: string;
  name: string;
  botanical: string;
  common_names: string[];
  cultivar: string;
  category: string;
  description: string;
  care: string;
  colours: string[];
  flowering: string[];
  light: string;
  water: string;
  hardiness: string;
  height_cm: number;
  spread_cm: number;
  pet_safe: boolean;
  price: number;
  stock: number;
  rating: number;
  reviews: number;
  sales_90d: number;
  added: string;
  introduced: number | string;
  suppliers: { id: string; name: string }[];
  picture: string;
  media_ids: string[];
  checksum: string;
}

/** The last day of the demo world: ages and dates are counted from here. */
export const TODAY = Date.UTC(2026, 4, 31);
const DAY = 86_400_000;

const HARDINESS = (toC: number): string =>
  toC <= -15 ? 'fully hardy' : toC <= -5 ? 'hardy in most places' : toC < 5 ? 'frost tender' : 'keep above 5 °C';

/** All sale items, always the same ones. */
export function makePlants(count: number): { plants: Plant[]; traits: Traits[] } {
  const chance = new Chance('quillbrook plants');
  const kinds = GENERA.flatMap((genus) => genus.species.map((species) => ({ genus, species })));
  const taken = new Set<string>();
  const plants: Plant[] = [];
  const traits: Traits[] = [];
  for (let n = 0; n < count; n++) {
    // Every species comes up in turn, so that none is missing and none crowds out the rest.
    const { genus, species } = kinds[n % kinds.length]!;
    const id = `P-${String(n + 1).padStart(4, '0')}`;
    const cultivar = n < kinds.length && chance.happens(0.35) ? '' : newCultivar(chance, taken);
    const plant = makePlant(new Chance(`plant ${id}`), id, genus, species, cultivar);
    plants.push(plant);
    traits.push({
      id,
      form: genus.form,
      indoor: genus.category.startsWith('Indoor'),
      colours: plant.colours,
      flowers: genus.months !== null,
      stature: (plant.height_cm - genus.heightCm[0]) / Math.max(1, genus.heightCm[1] - genus.heightCm[0]),
    });
  }
  return { plants, traits };
}

function newCultivar(chance: Chance, taken: Set<string>): string {
  for (;;) {
    const name = `${chance.pick(CULTIVAR_FIRST)} ${chance.pick(CULTIVAR_SECOND)}`;
    if (taken.has(name)) continue;
    taken.add(name);
    return name;
  }
}

function makePlant(chance: Chance, id: string, genus: Genus, species: Species, cultivar: string): Plant {
  const [low, high] = genus.heightCm;
  const height = Math.round(low + (high - low) * chance.next() ** 1.4);
  const spread = Math.max(8, Math.round(height * chance.between(0.5, 1.1)));
  const colours = orderedColours(chance, genus);
  const common = species.common[0]!;
  const price = priceOf(chance, genus, height);
  const rating = Math.round(Math.min(5, chance.between(3.1, 5.15)) * 10) / 10;
  const reviews = Math.floor(chance.next() ** 3 * 240);
  const name = cultivar === '' ? capital(common) : `${capital(common)} ‘${cultivar}’`;
  const trait = chance.pick(TRAITS);
  const facts = { name: common, Name: capital(common), group: genus.group, cultivar: cultivar === '' ? `this ${genus.group}` : `‘${cultivar}’`, height, spread, trait, aTrait: withArticle(trait),
    ATrait: capital(withArticle(trait)), groups: plural(genus.group), feature: featureOf(chance, genus, colours) }; // prettier-ignore
  return {
    id,
    name,
    botanical: cultivar === '' ? species.botanical : `${species.botanical} ‘${cultivar}’`,
    common_names: species.common,
    cultivar,
    category: genus.category,
    description: sentences(chance, facts, [chance.pick(OPENING), seasonOf(chance, genus)]),
    care: sentences(chance, facts, [
      chance.pick(PLACING[genus.light]),
      chance.pick(WATERING[genus.water]),
      ...chance.some(CARE_MORE, chance.whole(2, 4)),
    ]),
    colours,
    flowering: genus.months === null ? [] : monthsBetween(...genus.months),
    light: genus.light,
    water: genus.water,
    hardiness: HARDINESS(genus.hardyToC),
    height_cm: height,
    spread_cm: spread,
    pet_safe: genus.petSafe,
    price,
    stock: chance.happens(0.08) ? 0 : chance.whole(1, 140),
    rating,
    reviews,
    sales_90d: Math.floor(chance.next() ** 4 * 600 + (rating - 3) * 12),
    added: new Date(TODAY - chance.whole(0, 1500) * DAY).toISOString().slice(0, 10),
    introduced: introducedOf(chance),
    suppliers: chance.some(SUPPLIERS, chance.happens(0.3) ? 2 : 1).map(([supplierId, supplier]) => ({ id: supplierId, name: supplier })), // prettier-ignore
    picture: `/files/quillbrook/${id}.jpg`,
    media_ids: Array.from({ length: chance.whole(1, 3) }, () => hex(chance, 12)),
    checksum: hex(chance, 40),
  };
}

function orderedColours(chance: Chance, genus: Genus): string[] {
  const main = chance.pick(genus.colours);
  const others = genus.colours.filter((colour) => colour !== main);
  return [main, ...chance.some(others, chance.pick([0, 0, 0, 1, 1, 2]))];
}

function priceOf(chance: Chance, genus: Genus, height: number): number {
  const base =
    genus.form === 'tree' ? 28 : genus.form === 'palm' || genus.form === 'conifer' ? 18 : genus.form === 'bulb' ? 3 : 5;
  const pounds = base + height * chance.between(0.04, 0.13);
  return Math.max(2, Math.round(pounds * 2) / 2 - chance.pick([0, 0.05, 0.01]));
}

/** A handful of dirty values, such as a nursery's own records hold. */
function introducedOf(chance: Chance): number | string {
  const year = chance.whole(1870, 2025);
  if (!chance.happens(0.004)) return year;
  return chance.pick([`${year}*`, `c. ${year}`, `before ${year}`, 'unknown']);
}

function featureOf(chance: Chance, genus: Genus, colours: string[]): string {
  const colour = colours[0]!;
  if (genus.months === null)
    return chance.say(`[${colour} leaves|${colour} foliage|fresh ${colour} leaves|dense ${colour} foliage]`);
  return chance.say(
    `[${colour} flowers|generous ${colour} bloom|clear ${colour} flowers|long-lasting ${colour} flowers]`,
  );
}

function seasonOf(chance: Chance, genus: Genus): string {
  if (genus.months === null)
    return '[Looks the same in January and June|Worth its place the year round|It asks for nothing but a little room]';
  const [first, last] = genus.months;
  return chance.say(
    `[In flower from|Blooms from|Opens in] ${MONTHS[first - 1]} [until|and carries on to|to] ${MONTHS[last - 1]}`,
  );
}

function sentences(chance: Chance, facts: Record<string, string | number>, patterns: string[]): string {
  return patterns.map((pattern) => `${capital(chance.say(pattern, facts))}.`).join(' ');
}

function monthsBetween(first: number, last: number): string[] {
  const count = ((last - first + 12) % 12) + 1;
  return Array.from({ length: count }, (_, i) => MONTHS[(first - 1 + i) % 12]!);
}

function hex(chance: Chance, digits: number): string {
  return Array.from({ length: digits }, () => chance.whole(0, 15).toString(16)).join('');
}
