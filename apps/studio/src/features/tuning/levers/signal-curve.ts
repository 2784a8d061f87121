import type { FieldProfile, SignalRule } from '@yucca/contract';
import { shaped } from '@yucca/engine/signals';
import { count } from '@/ui/format';

/** A signal's shape, laid over how the values of its field are spread. */
export interface Curve {
  /**
   * Records by bins of one width, 0 to 1 of the fullest; by their square root, so that the few are seen beside the
   * many.
   */
  bars: number[];
  /** What values are worth, 0 to 1, evenly from the first bin's edge to the last one's. */
  points: number[];
  /** The ends, in words. */
  from: string;
  to: string;
  /** How much of the records gets at least half of what there is. */
  half: string;
}

const DAY_MS = 86_400_000;
const POINTS = 49;

/** The curve of a signal, as the engine shapes it. Null when nothing is known of how the field is spread. */
export function curveOf(rule: SignalRule, field: FieldProfile | null): Curve | null {
  if (!field?.spread || field.spread.counts.length === 0) return null;
  const { from, width, counts, unit } = field.spread;
  const scale = unit === 'day' ? DAY_MS : 1;
  const extent = extentOf(field, scale);
  const worth = (value: number): number => {
    const inside = Math.min(extent.max, Math.max(extent.min, value * scale));
    return shaped(inside, extent, rule);
  };
  const end = from + width * counts.length;
  const most = Math.max(...counts);
  const all = counts.reduce((sum, one) => sum + one, 0);
  const good = counts.reduce((sum, one, i) => sum + (worth(from + (i + 0.5) * width) >= 0.5 ? one : 0), 0);
  const edge = (value: number): string => (unit === 'day' ? new Date(value).toISOString().slice(0, 10) : count(value));
  return {
    bars: counts.map((one) => Math.sqrt(one / most)),
    points: Array.from({ length: POINTS }, (_, i) => worth(from + ((end - from) * i) / (POINTS - 1))),
    from: edge(extent.min),
    to: edge(extent.max),
    half: `${Math.round((100 * good) / all)}% of records get half or more`,
  };
}

function extentOf({ numbers, dates, spread }: FieldProfile, scale: number): { min: number; max: number } {
  if (numbers) return { min: numbers.min * scale, max: numbers.max * scale };
  if (dates) return { min: Date.parse(dates.from), max: Date.parse(dates.to) };
  const { from, width, counts } = spread!;
  return { min: from * scale, max: (from + width * counts.length) * scale };
}
