import { Chance } from '../random.ts';

/** A place to collect an order, as it goes into the collection `gardens`. */
export interface Garden {
  id: string;
  name: string;
  kind: string;
  town: string;
  address: string;
  about: string;
  opens: string;
  closes: string;
  closed_on: string[];
  services: string[];
  parking_spaces: number;
  rating: number;
  /** GeoJSON (RFC 7946): longitude first. */
  position: { type: 'Point'; coordinates: [number, number] };
}

/** Quillbrook lies on an island of its own, far out at sea: no place of the real world is meant. */
const MIDDLE = { lat: 47.3, lng: -18.4 };

const TOWN_START = ['Ald', 'Bram', 'Cres', 'Dun', 'El', 'Fen', 'Gar', 'Hol', 'Kes', 'Lin', 'Mar', 'Nor', 'Orm', 'Pen', 'Quill', 'Ras', 'Sel', 'Thorn', 'Wick', 'Yar']; // prettier-ignore
const TOWN_END = ['bourne', 'bridge', 'combe', 'den', 'ford', 'ham', 'hythe', 'ley', 'mere', 'mouth', 'stead', 'wick'];
const STREETS = ['Mill Lane', 'Quay Street', 'The Green', 'Orchard Row', 'Foundry Yard', 'Long Acre', 'Station Approach', 'Heron Walk', 'Old Ropewalk', 'Chapel Hill', 'Glasshouse Lane', 'Weir Road']; // prettier-ignore
const KINDS = ['garden centre', 'nursery', 'farm shop', 'allotment hut', 'botanic garden', 'village store'] as const;
const SERVICES = ['click and collect', 'café', 'compost refill', 'pot washing', 'plant hospital', 'cargo bike', 'workshops', 'seed library']; // prettier-ignore
const ABOUT = [
  '[A walled garden|Two glasshouses|An old railway yard|A converted dairy] [behind the church|by the river|at the end of the lane], [run by the same family since 1961|kept by a cooperative of eleven|and a good deal of ivy]',
  '[Ring the bell|Come to the green door|Ask at the counter] and [your order is brought out|someone will help you load]',
  'Known for [its ferns|a hundred kinds of mint|old roses|bare-root trees|the best tea on the island] and [a tame goose|a slow cat|weather of its own]',
  '[Dogs are welcome|Children get a seed to sow|There is a bench in the shade], [parking is tight on Saturdays|the bus stops at the gate]',
];
const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Sunday'];

interface Town {
  name: string;
  lat: number;
  lng: number;
}

const makeTowns = (chance: Chance): Town[] =>
  Array.from({ length: 36 }, () => ({
    name: chance.pick(TOWN_START) + chance.pick(TOWN_END),
    lat: MIDDLE.lat + chance.between(-0.9, 0.9) * chance.between(0.4, 1),
    lng: MIDDLE.lng + chance.between(-1.4, 1.4) * chance.between(0.4, 1),
  }));

const SEED = 'quillbrook gardens';

/** Some towns of the island, to measure distances from, in alphabetical order. */
export function places(count: number): Town[] {
  const towns = new Map(makeTowns(new Chance(SEED)).map((town) => [town.name, town]));
  const degrees = (value: number): number => Math.round(value * 1000) / 1000;
  return [...towns.values()]
    .slice(0, count)
    .map(({ name, lat, lng }) => ({ name, lat: degrees(lat), lng: degrees(lng) }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

/** All collection places, always the same ones. */
export function makeGardens(count: number): Garden[] {
  const chance = new Chance(SEED);
  const towns = makeTowns(chance);
  const names = new Set<string>();
  return Array.from({ length: count }, (_, n): Garden => {
    const town = chance.pick(towns);
    const kind = chance.pick(KINDS);
    let name: string;
    do {
      name = chance.say(`[The ${town.name} |${town.name} |Old ${town.name} |${chance.pick(STREETS).replace(/^The /, '')} |Little ]`) + chance.say('[Garden|Nursery|Potting Shed|Glasshouse|Plant Store|Greenhouse|Walled Garden|Orchard]'); // prettier-ignore
    } while (names.has(name));
    names.add(name);
    const degrees = (value: number): number => Math.round(value * 1e5) / 1e5;
    return {
      id: `C-${String(n + 1).padStart(3, '0')}`,
      name,
      kind,
      town: town.name,
      address: `${chance.whole(1, 90)} ${chance.pick(STREETS)}, ${town.name}`,
      about: chance.some(ABOUT, chance.whole(2, 3)).map((pattern) => `${chance.say(pattern)}.`).join(' '), // prettier-ignore
      opens: chance.pick(['08:00', '08:30', '09:00', '10:00']),
      closes: chance.pick(['16:00', '17:00', '17:30', '18:00']),
      closed_on: chance.some(DAYS, chance.whole(0, 2)),
      services: chance.some(SERVICES, chance.whole(1, 5)),
      parking_spaces: chance.whole(0, 60),
      rating: Math.round(chance.between(3.2, 5) * 10) / 10,
      position: { type: 'Point', coordinates: [degrees(town.lng + chance.between(-0.03, 0.03)), degrees(town.lat + chance.between(-0.02, 0.02))] }, // prettier-ignore
    };
  });
}
