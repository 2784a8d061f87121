import type { RecordJson } from '@yucca/contract';
import { fieldWords } from '../text/field-words.ts';
import { isPairOfNumbers, pairIn, positionFrom, readPositionAs } from './positions.ts';
import type { RuleProposal } from './propose.ts';

const LATITUDE = new Set(['lat', 'latitude']);
const LONGITUDE = new Set(['lng', 'lon', 'long', 'longitude']);
/** Whether a field is called half of a position. */
export const isHalfOfPosition = (path: string): boolean =>
  fieldWords(path).some((word) => LATITUDE.has(word) || LONGITUDE.has(word));

const NEARLY_ALL = 0.95;
const ENOUGH = 2;

/**
 * Positions in a sample: of two columns with a latitude and a longitude, and of columns that hold both in a text or a
 * list. Which of two plain numbers is the latitude is told by the values (no latitude is above 90), then by the name of
 * the column; where both leave it open, both are proposed and a person has to choose.
 */
export function proposePositions(sample: readonly RecordJson[], fields: readonly string[]): RuleProposal[] {
  return [...ofTwoColumns(sample, fields), ...fields.flatMap((field) => ofOneColumn(sample, field))];
}

function ofTwoColumns(sample: readonly RecordJson[], fields: readonly string[]): RuleProposal[] {
  const halves = (which: ReadonlySet<string>) =>
    fields.flatMap((field) => {
      const words = fieldWords(field);
      const rest = words.filter((word) => !which.has(word));
      return rest.length === words.length - 1 ? [{ field, rest: rest.join(' ') }] : [];
    });
  const longitudes = halves(LONGITUDE);
  const used = new Set<string>(fields);
  return halves(LATITUDE).flatMap(({ field: lat, rest }) => {
    const lng = longitudes.find((one) => one.rest === rest)?.field;
    if (lng === undefined) return [];
    const holding = sample.filter((record) => filled(record[lat]) || filled(record[lng]));
    const read = holding.filter((record) => positionFrom(record, [lat, lng]) !== null);
    if (read.length < ENOUGH || read.length < holding.length * NEARLY_ALL) return [];
    const about = rest.replace(/\b(deg|degrees?|wgs84|decimal)\b/g, '').trim();
    const field = freeIn(used, about === '' ? 'position' : `${about} position`);
    used.add(field);
    return [
      {
        rule: { field, as: 'position' as const, from: [lat, lng] as [string, string] },
        reason: `“${lat}” and “${lng}” are a latitude and a longitude: “near me”, distance and a map`,
      },
    ];
  });
}

const filled = (value: unknown): boolean => value !== undefined && value !== null && value !== '';

function freeIn(used: ReadonlySet<string>, name: string): string {
  for (let n = 1; ; n++) {
    const free = n === 1 ? name : `${name} ${n}`;
    if (!used.has(free)) return free;
  }
}

function ofOneColumn(sample: readonly RecordJson[], field: string): RuleProposal[] {
  const values = sample.map((record) => record[field]).filter(filled);
  if (values.length < ENOUGH || !values.every((value) => typeof value === 'string' || isPairOfNumbers(value)))
    return [];
  const fits = (order: 'lat-first' | 'lng-first'): boolean =>
    values.every((value) => readPositionAs(value, order) !== undefined);
  const [latFirst, lngFirst] = [fits('lat-first'), fits('lng-first')];
  if (!latFirst && !lngFirst) return [];
  const pairs = values.flatMap((value) => (typeof value === 'string' ? (pairIn(value) ?? []) : (value as number[])));
  // Pairs of short numbers are months or sizes more often than points.
  const exact = pairs.filter((part) => /\.\d{3}/.test(String(part))).length;
  if (pairs.length > 0 && exact < pairs.length / 2 && !isNamed(field)) return [];
  if (pairs.length === 0)
    return [{ rule: { field, as: 'position' }, reason: 'every value is a position that says which number is which' }];
  const words = fieldWords(field).join('');
  const named = /lat.*(lng|lon)/.test(words) ? 'lat-first' : /(lng|lon).*lat/.test(words) ? 'lng-first' : null;
  const order = latFirst !== lngFirst ? (latFirst ? 'lat-first' : 'lng-first') : named;
  const first = (one: 'lat-first' | 'lng-first'): string => (one === 'lat-first' ? 'latitude' : 'longitude');
  if (order !== null) {
    const why = latFirst !== lngFirst ? 'no other order fits its values' : 'as its name says';
    return [
      { rule: { field, as: 'position', order }, reason: `every value is a position, ${first(order)} first: ${why}` },
    ];
  }
  const usual = typeof values[0] === 'string' ? 'lat-first' : 'lng-first';
  return [usual, usual === 'lat-first' ? 'lng-first' : 'lat-first'].map((one) => ({
    rule: { field, as: 'position', order: one as 'lat-first' | 'lng-first' },
    reason: 'every value is a position, and either number may be its latitude: choose which comes first',
    isDoubtful: true,
  }));
}

const isNamed = (field: string): boolean =>
  /position|location|coord|geo|point|lat.*(lng|lon)|(lng|lon).*lat/.test(fieldWords(field).join(''));
