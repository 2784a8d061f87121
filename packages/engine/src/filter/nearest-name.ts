import { typoDistances } from '../text/distance.ts';

/** The name someone most likely meant: the nearest within three typos, or null. */
export function nearestName(wanted: string, names: Iterable<string>): string | null {
  let best: string | null = null;
  let least = Math.min(4, Math.ceil(wanted.length / 2) + 1);
  for (const name of names) {
    if (Math.abs(name.length - wanted.length) >= least) continue;
    const { whole } = typoDistances(wanted.toLowerCase(), name.toLowerCase());
    if (whole < least) [best, least] = [name, whole];
  }
  return best;
}
