import type { Judgement } from '@yucca/contract';
import type { Plant } from './quillbrook/plants.ts';

/** What somebody at the nursery would want to see: a query, and which plants answer it how well. */
interface Wish {
  query: string;
  /** 3 the very thing, 2 a good answer, 1 related, 0 no answer. */
  grade: (plant: Plant) => number;
}

/** The first words of the botanical name. */
const isOf = (plant: Plant, ...names: string[]): boolean =>
  names.some((name) => plant.botanical === name || plant.botanical.startsWith(`${name} `));

/** Plants of a genus or a species: the very thing, whichever cultivar. */
const of =
  (...names: string[]) =>
  (plant: Plant): number =>
    isOf(plant, ...names) ? 3 : 0;

/** Plants of a genus that fulfil something more; the rest of the genus is related. */
const ofWith =
  (more: (plant: Plant) => boolean, ...names: string[]) =>
  (plant: Plant): number =>
    isOf(plant, ...names) ? (more(plant) ? 3 : 1) : 0;

const inColour = (colour: string) => (plant: Plant) => plant.colours.includes(colour);
const under = (category: string) => (plant: Plant) => plant.category.startsWith(category);

/** The names people use, spelt right: what works should go on working. */
const NAMES: Wish[] = [
  ['lavender', 'Lavandula'], ['agave', 'Agave'], ['snake plant', 'Dracaena trifasciata'], ['aloe vera', 'Aloe vera'],
  ['swiss cheese plant', 'Monstera deliciosa'], ['spider plant', 'Chlorophytum comosum'], ['peace lily', 'Spathiphyllum wallisii'],
  ['boston fern', 'Nephrolepis exaltata'], ['foxglove', 'Digitalis'], ['delphinium', 'Delphinium'], ['red hot poker', 'Kniphofia uvaria'],
  ['sunflower', 'Helianthus'], ['tulip', 'Tulipa'], ['daffodil', 'Narcissus'], ['snowdrop', 'Galanthus'], ['dahlia', 'Dahlia'],
  ['dog rose', 'Rosa canina'], ['hydrangea', 'Hydrangea'], ['wisteria', 'Wisteria'], ['japanese maple', 'Acer palmatum'],
  ['rosemary', 'Salvia rosmarinus'], ['mint', 'Mentha'], ['strawberry', 'Fragaria'], ['lemon tree', 'Citrus limon'],
].map(([query, name]) => ({ query: query!, grade: of(name!) })); // prettier-ignore

/** Botanical names, as people who know them type them. */
const BOTANICAL: Wish[] = [
  'Lavandula angustifolia', 'Monstera deliciosa', 'Dryopteris', 'Echinacea purpurea', 'Hosta', 'Helleborus niger',
  'Rosa rugosa', 'Olea europaea',
].map((name) => ({ query: name.toLowerCase(), grade: of(name) })); // prettier-ignore

/** Misspelt, the way people misspell plants. Some lie within the typos allowed, some do not. */
const MISSPELT: Wish[] = [
  ['lavendar', 'Lavandula'], ['hydrangia', 'Hydrangea'], ['rosmary', 'Salvia rosmarinus'], ['fushia', 'Fuchsia'],
  ['rododendron', 'Rhododendron'], ['geraniam', 'Geranium'], ['crysanthemum poppy', 'Papaver'], ['clemetis', 'Clematis'],
  ['snak plnat', 'Dracaena trifasciata'], ['monstera delisiosa', 'Monstera deliciosa'],
].map(([query, name]) => ({ query: query!, grade: of(name!) })); // prettier-ignore

/** Other names of a thing: the catalogue does not know all of them. */
const OTHER_NAMES: Wish[] = [
  ['mother in law tongue', 'Dracaena trifasciata'], ['sansevieria', 'Dracaena trifasciata'], ['devils ivy', 'Epipremnum aureum'],
  ['houseleek', 'Sempervivum'], ['zucchini', 'Cucurbita pepo'], ['cilantro', 'Coriandrum'], ['xmas cactus', 'Schlumbergera'],
].map(([query, name]) => ({ query: query!, grade: of(name!) })); // prettier-ignore

/** What a plant is wanted for, in a few words of which not all stand in its text. */
const NEEDS: Wish[] = [
  { query: 'red rose', grade: ofWith(inColour('red'), 'Rosa') },
  { query: 'white tulip', grade: ofWith(inColour('white'), 'Tulipa') },
  { query: 'blue hydrangea', grade: ofWith(inColour('blue'), 'Hydrangea') },
  {
    query: 'fern for shade',
    grade: (plant) => (under('Outdoor > Ferns')(plant) ? 3 : under('Indoor > Ferns')(plant) ? 1 : 0),
  },
  { query: 'herb for tea', grade: of('Mentha') },
  { query: 'climbing plant for a shady wall', grade: of('Hedera') },
  { query: 'houseplant safe for cats', grade: (plant) => (under('Indoor')(plant) && plant.pet_safe ? 2 : 0) },
  {
    query: 'succulent',
    grade: (plant) => (under('Indoor > Succulents')(plant) || isOf(plant, 'Agave', 'Sempervivum') ? 2 : 0),
  },
  {
    query: 'apple tree for a small garden',
    grade: (plant) => (isOf(plant, 'Malus') ? (plant.height_cm < 250 ? 3 : 1) : 0),
  },
  { query: 'tall grass', grade: (plant) => (under('Outdoor > Grasses')(plant) ? (plant.height_cm > 150 ? 3 : 1) : 0) },
  { query: 'lavender blue', grade: ofWith(inColour('blue'), 'Lavandula') },
];

const WISHES = [...NAMES, ...BOTANICAL, ...MISSPELT, ...OTHER_NAMES, ...NEEDS];

/** The judged queries of the plants: about sixty, honest ones, some of which fail as Quillbrook ships. */
export function judgePlants(plants: readonly Plant[]): Judgement[] {
  return WISHES.map(({ query, grade }) => {
    const grades = plants.map((plant): [string, number] => [plant.id, grade(plant)]).filter(([, given]) => given > 0);
    return { query, grades: Object.fromEntries(grades.slice(0, 900)) };
  });
}
