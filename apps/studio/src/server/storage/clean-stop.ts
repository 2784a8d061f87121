import { existsSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const file = (dataDir: string): string => path.join(dataDir, 'running');

/** Marks that a process works on the folder. Returns whether the one before it came to a clean end. */
export function markRunning(dataDir: string): boolean {
  const clean = !existsSync(file(dataDir));
  writeFileSync(file(dataDir), `${process.pid}\n`);
  return clean;
}

/** Takes the mark away: this process has come to a clean end. */
export function markStopped(dataDir: string): void {
  rmSync(file(dataDir), { force: true });
}
