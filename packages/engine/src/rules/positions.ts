import type { FieldRule, RecordJson } from '@yucca/contract';
import { readPosition, type Position } from '../geo/geo-point.ts';
import { readNumber } from './numbers.ts';

type Order = NonNullable<FieldRule['order']>;

/** Degrees, minutes and seconds as people write them. */
const DEGREES = String.raw`([-−+]?\d{1,3}(?:[.,]\d+)?)\s*(?:°|º|deg)?\s*(?:(\d{1,2}(?:[.,]\d+)?)\s*['′’]\s*)?(?:(\d{1,2}(?:[.,]\d+)?)\s*(?:"|″|”|'')\s*)?`;
/** The half of the earth stands behind them, or before. */
const BEHIND = new RegExp(String.raw`${DEGREES}\s*([NSEWO])?`, 'giu');
const BEFORE = new RegExp(String.raw`([NSEWO])\s*${DEGREES}`, 'giu');

/** Well-known text (OGC 06-103r4): longitude first. */
const WKT_POINT = /^\s*(?:SRID=4326;)?\s*POINT\s*Z?\s*\(\s*([-+\d.eE]+)[ ,]+([-+\d.eE]+)(?:\s+[-+\d.eE]+)?\s*\)\s*$/i;

/** A pair of plain numbers, with what may stand between them. A comma is no decimal sign here. */
const PAIR = /^\s*[([]?\s*([-−+]?\d{1,3}(?:\.\d+)?)\s*(?:[,;/|]|\s)\s*([-−+]?\d{1,3}(?:\.\d+)?)\s*[)\]]?\s*$/;

export const isPairOfNumbers = (value: unknown): value is [number, number] =>
  Array.isArray(value) && (value.length === 2 || value.length === 3) && value.every((part) => typeof part === 'number');

const inOrder = (first: number, second: number, order: Order): Position | null =>
  readPosition(order === 'lat-first' ? { lat: first, lng: second } : { lat: second, lng: first });

/** The two numbers of a text that is a pair of numbers, in the order they stand in; null when it is none. */
export function pairIn(text: string): [number, number] | null {
  const found = PAIR.exec(text);
  return found === null ? null : [Number(signed(found[1]!)), Number(signed(found[2]!))];
}

const signed = (text: string): string => text.replace('−', '-');

/**
 * Reads a position in any of its notations: `-6.08, 145.39`; degrees, minutes and seconds; well-known text; a list of
 * two numbers; an object of the two. Undefined when it is none. `order` decides for two plain numbers alone: all
 * others say themselves which is which.
 */
export function readPositionAs(value: unknown, order?: Order): Position | undefined {
  if (typeof value === 'string') return readText(value, order ?? 'lat-first') ?? undefined;
  if (isPairOfNumbers(value)) return inOrder(value[0], value[1], order ?? 'lng-first') ?? undefined;
  return readPosition(value) ?? undefined;
}

function readText(text: string, order: Order): Position | null {
  if (text.length > 120) return null;
  const wkt = WKT_POINT.exec(text);
  if (wkt !== null) return inOrder(Number(wkt[1]), Number(wkt[2]), 'lng-first');
  const pair = pairIn(text);
  return pair !== null ? inOrder(pair[0], pair[1], order) : readDegrees(text);
}

/** `47°12'30"N 18°24'W`, `N 47.2, W 18.4`: both halves of the earth are named, or marked as degrees. */
function readDegrees(text: string): Position | null {
  const isBefore = /^\s*[NSEWO]/i.test(text);
  const pattern = isBefore ? BEFORE : BEHIND;
  const parts = [...text.matchAll(pattern)];
  if (parts.length !== 2 || text.replace(pattern, '').replace(/[\s,;/]/g, '') !== '') return null;
  const read = parts.map((part) => {
    const [degrees = '', minutes, seconds, behind] = isBefore ? part.slice(2) : part.slice(1);
    const half = ((isBefore ? part[1] : behind) ?? '').toUpperCase();
    const number = (digits: string | undefined): number => Number(signed(digits ?? '0').replace(',', '.'));
    const size = Math.abs(number(degrees)) + number(minutes) / 60 + number(seconds) / 3600;
    const isNegative = /^[-−]/.test(degrees) || half === 'S' || half === 'W';
    return { half, marked: half !== '' || /[°º]/.test(part[0]), value: isNegative ? -size : size };
  });
  const [first, second] = read as [(typeof read)[0], (typeof read)[0]];
  if (!first.marked || !second.marked) return null;
  const isLngFirst = /[EWO]/.test(first.half) || /[NS]/.test(second.half);
  const [lat, lng] = isLngFirst ? [second.value, first.value] : [first.value, second.value];
  const round = (degrees: number): number => Math.round(degrees * 1e7) / 1e7;
  return readPosition({ lat: round(lat), lng: round(lng) });
}

/** The position that two fields of a record make; null where they make none. */
export function positionFrom(record: RecordJson, [lat, lng]: readonly [string, string]): Position | null {
  return readPosition({ lat: degreesAt(record, lat), lng: degreesAt(record, lng) });
}

function degreesAt(record: RecordJson, path: string): number | undefined {
  let value: unknown = record;
  if (Object.hasOwn(record, path)) value = record[path];
  else
    for (const name of path.split('.')) {
      if (value === null || typeof value !== 'object' || !Object.hasOwn(value, name)) return undefined;
      value = (value as RecordJson)[name];
    }
  return typeof value === 'string' ? readNumber(value) : typeof value === 'number' ? value : undefined;
}
