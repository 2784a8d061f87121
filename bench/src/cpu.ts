import { readdirSync, readFileSync } from 'node:fs';

/**
 * CPU milliseconds of a process, or of one of its threads, from the kernel (`man 5 proc`: fields 14 and 15, in ticks of
 * 10 ms).
 */
function cpuMs(file: string): number {
  const fields = readFileSync(file, 'utf8').split(') ')[1]!.split(' ');
  return (Number(fields[11]) + Number(fields[12])) * 10;
}

/** CPU milliseconds that a process has taken: all of its threads. */
export const processMs = (pid: number): number => cpuMs(`/proc/${pid}/stat`);

/** Those of each of its threads, by their number. */
export const threadsMs = (pid: number): Map<string, number> =>
  new Map(readdirSync(`/proc/${pid}/task`).map((id) => [id, cpuMs(`/proc/${pid}/task/${id}/stat`)]));

/** Those of the thread it began with. */
export const mainThreadMs = (pid: number): number => cpuMs(`/proc/${pid}/task/${pid}/stat`);
