import { pointerToken, type RecordJson } from '@yucca/contract';
import { centreOf } from './geojson.ts';

/** Where in a JSON document its records may be. */
export interface RecordPointer {
  /** A JSON Pointer (RFC 6901); '' = the document itself. */
  pointer: string;
  /** How many there are, as far as the document was looked at. */
  records: number;
  /**
   * list: objects in a list. entries: objects by their keys. groups: lists of objects by the names of their groups.
   * lists: lists of plain values by their keys. values: plain values by their keys.
   */
  kind: 'list' | 'entries' | 'groups' | 'lists' | 'values';
}

type Members = { [name: string]: unknown };

const isObject = (value: unknown): value is Members =>
  value !== null && typeof value === 'object' && !Array.isArray(value);
const isPlain = (value: unknown): boolean => value === null || typeof value !== 'object';

/** Levels of objects that are looked through. */
const LEVELS = 4;
/** Elements and members looked at to tell what a list or an object holds. */
const LOOKED_AT = 200;
/** What only a record has: a document with a key of its own is one, whatever lists it holds. */
const ITS_KEY = /^(_?id|uuid|guid|sku|isbn|ean|gtin)$/i;
/** So many members alike are records by their keys; fewer may as well be the parts of one thing. */
const LEAST_ENTRIES = 3;
const LEAST_VALUES = 20;

/**
 * Where the records of a JSON document may be, the likeliest first: where the most of them are, and of equals where
 * they stand highest. Empty when the document is one record, or none.
 */
export function recordPointers(document: unknown): RecordPointer[] {
  const all: (RecordPointer & { level: number })[] = [];
  const look = (value: unknown, pointer: string, level: number): void => {
    const found = recordsIn(value);
    if (found !== null) all.push({ pointer, level, ...found });
    if (!isObject(value) || level === LEVELS || found?.kind === 'entries') return;
    for (const [name, member] of Object.entries(value).slice(0, LOOKED_AT))
      look(member, `${pointer}/${pointerToken(name)}`, level + 1);
  };
  if (isObject(document) && Object.keys(document).some((name) => ITS_KEY.test(name))) return [];
  look(document, '', 0);
  return all
    .sort((a, b) => b.records - a.records || a.level - b.level)
    .map(({ pointer, records, kind }) => ({ pointer, records, kind }));
}

function recordsIn(value: unknown): Omit<RecordPointer, 'pointer'> | null {
  if (Array.isArray(value)) {
    const objects = value.slice(0, LOOKED_AT).filter(isObject).length;
    return objects * 2 > Math.min(value.length, LOOKED_AT) ? { kind: 'list', records: value.length } : null;
  }
  if (!isObject(value)) return null;
  const members = Object.values(value);
  const some = members.slice(0, LOOKED_AT);
  const all = (test: (member: unknown) => boolean): boolean => some.every(test);
  if (members.length >= 2 && all((member) => Array.isArray(member) && member.length > 0 && member.every(isObject))) {
    const lists = members as unknown[][];
    // One thing may well have two lists of its parts; groups hold what is alike.
    return areAlike(lists.map((list) => list[0] as Members))
      ? { kind: 'groups', records: lists.reduce((sum, list) => sum + list.length, 0) }
      : null;
  }
  if (members.length >= LEAST_ENTRIES && all(isObject) && areAlike(some as Members[]))
    return { kind: 'entries', records: members.length };
  if (members.length >= LEAST_ENTRIES && all((member) => Array.isArray(member) && member.every(isPlain)))
    return { kind: 'lists', records: members.length };
  if (members.length >= LEAST_VALUES && all((member) => isPlain(member) && typeof member === typeof some[0]))
    return { kind: 'values', records: members.length };
  return null;
}

/** Whether objects have most of their names in common. */
function areAlike(objects: readonly Members[]): boolean {
  const counts = new Map<string, number>();
  let names = 0;
  for (const object of objects)
    for (const name of Object.keys(object)) {
      counts.set(name, (counts.get(name) ?? 0) + 1);
      names++;
    }
  const shared = [...counts.values()].reduce((sum, count) => sum + (count * 2 > objects.length ? count : 0), 0);
  return names > 0 && shared * 2 > names;
}

/** The first name of some that an object does not have. */
function freeName(object: Members, ...names: string[]): string {
  return names.find((name) => !Object.hasOwn(object, name)) ?? names.at(-1)!;
}

/** What was cut out of a document (see JsonEntries) as a record; other values are left as they are. */
export function recordOf(value: unknown, key: string | null, group: string | null): unknown {
  const raised = isFeature(value) ? fromFeature(value) : value;
  if (group !== null) return isObject(raised) ? { ...raised, [freeName(raised, 'group', 'inGroup')]: group } : raised;
  if (key === null) return raised;
  if (isObject(raised)) return { [freeName(raised, 'key', 'entryKey')]: key, ...raised };
  return Array.isArray(raised) ? { key, values: raised } : { key, value: raised };
}

interface Feature {
  type: 'Feature';
  id?: unknown;
  properties: Members | null;
  geometry: unknown;
}

function isFeature(value: unknown): value is Feature & Members {
  return isObject(value) && value.type === 'Feature' && 'geometry' in value && (isObject(value.properties) || value.properties === null); // prettier-ignore
}

/** A feature of GeoJSON (RFC 7946): its properties, and where it lies. */
function fromFeature({ id, properties, geometry }: Feature): RecordJson {
  const own = properties ?? {};
  const centre = centreOf(geometry);
  return {
    ...(id === undefined || Object.hasOwn(own, 'id') ? {} : { id }),
    ...own,
    ...(centre === null ? {} : { [freeName(own, 'position', 'geoPosition')]: centre }),
  };
}
