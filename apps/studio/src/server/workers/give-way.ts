import { setPriority } from 'node:os';

/** So much nicer than the others: beside a busy one a thread gets a third of its time, by itself all there is. */
const NICER = 5;

/**
 * Has this thread leave its core to others that have something to do: what nobody waits for on a screen. Linux counts
 * priorities by thread; where they are counted by process, everything would give way, so nothing does there.
 */
export function giveWay(): void {
  if (process.platform === 'linux') setPriority(NICER);
}
