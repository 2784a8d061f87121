import type * as engine from '@yucca/engine';
import { build } from 'esbuild';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { tuning } from './collection.ts';
import { Generator } from './generator.ts';
import { hostileRequests, type Hostile } from './hostile.ts';
import { keystrokes } from './keystrokes.ts';
import { RealRecords, realTuning, SpacelessRecords } from './real-records.ts';
import { percentiles, round, timed } from './stats.ts';

type Engine = Pick<typeof engine, 'planFor' | 'search' | 'Segment' | 'SegmentBuilder' | 'Tombstones'>;

export interface PairResult {
  what: string;
  before: number;
  after: number;
  ratio: number;
}

const ROUNDS = 3;
const BUILDS = 4;
const WARM_UP = 400;
const OPENINGS = 5;
/** The first of them are for the compiler. */
const HOSTILE_FROM = [200, 160, 120, 80, 40, 0];
const HOSTILE_WARM_UP = 3;
const shared = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);

/**
 * The engine of another checkout and this one over the same records, asked the same keystrokes in turn in one process:
 * the machine's speed changes from minute to minute, a ratio does not. Of each keystroke the best round counts.
 * `wanted`: which sets of records; all of them when none is named.
 */
export async function measurePair(checkout: string, count: number, wanted: string[]): Promise<PairResult[]> {
  const folder = mkdtempSync(path.join(tmpdir(), 'yucca-pair-'));
  try {
    const engines = await Promise.all([checkout, process.cwd()].map((root, i) => engineOf(root, folder, i)));
    const sets: Record<string, () => Data> = {
      bench: () => benchData(count),
      real: () => realData(new RealRecords(), count),
      spaceless: () => realData(new SpacelessRecords(), count),
    };
    return Object.entries(sets)
      .filter(([name]) => wanted.length === 0 || wanted.includes(name))
      .flatMap(([name, make]) => compared(name, engines, make()));
  } finally {
    rmSync(folder, { recursive: true });
  }
}

async function engineOf(root: string, folder: string, i: number): Promise<Engine> {
  const outfile = path.join(folder, `engine-${i}.mjs`);
  await build({
    entryPoints: [path.join(root, 'packages/engine/src/index.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'error',
    // Each engine with the contract of its own checkout.
    alias: { '@yucca/contract': path.join(root, 'packages/contract/src/index.ts') },
  });
  return (await import(pathToFileURL(outfile).href)) as Engine;
}

interface Data {
  tuning: typeof tuning;
  /** What is made to cost much; each time with other words and values. */
  hostile: Hostile[][];
  lines: string[];
  keys: string[];
  log: string[];
}

function benchData(count: number): Data {
  const generator = new Generator();
  const lines = Array.from({ length: count }, (_, i) => JSON.stringify(generator.record(i + 1)));
  const log = keystrokes(generator);
  const hostile = HOSTILE_FROM.map((from) => hostileRequests(generator, from, from / 20));
  return { tuning, hostile, lines, keys: lines.map((_, i) => String(i + 1)), log };
}

function realData(source: RealRecords, count: number): Data {
  const records = Array.from({ length: count }, (_, i) => source.record(i));
  const keys = records.map(({ id }) => String(id));
  return {
    tuning: realTuning,
    hostile: [],
    lines: records.map((record) => JSON.stringify(record)),
    keys,
    log: source.keystrokes(120),
  };
}

function compared(name: string, engines: Engine[], data: Data): PairResult[] {
  const { tuning: rules, lines, keys, log, hostile } = data;
  const sides = engines.map(({ planFor, search, Segment, SegmentBuilder, Tombstones }) => {
    const make = (): SharedArrayBuffer => {
      const builder = new SegmentBuilder(planFor([rules]));
      lines.forEach((json, i) => builder.add({ versionId: i + 1, order: i + 1, key: keys[i]!, json }));
      return builder.finish(shared);
    };
    const buffer = make();
    const segments = [{ segment: new Segment(buffer), dead: Tombstones.none(lines.length, shared) }];
    // One object until something is written, as in a server: what is known of a generation is known of it.
    const generation = { number: 1, segments };
    const ask = (q: string): number => timed(() => search(generation, rules, { q, facets: ['*'], size: 20 }));
    const askHostile = ({ request, tuning: own = rules }: Hostile): number =>
      timed(() => {
        try {
          search(generation, own, { facets: ['*'], size: 20, ...request });
        } catch (error) {
          // Being refused is an answer too; each engine has a class of its own for it.
          if ((error as Error).name !== 'SearchRequestError') throw error;
        }
      });
    const open = (): number => timed(() => new Segment(buffer));
    const most = hostile[0]?.map(() => Infinity) ?? [];
    const times = { buildMs: Infinity, openMs: Infinity, hostile: most, best: log.map(() => Infinity) };
    return { ask, askHostile, open, make, bytes: buffer.byteLength, times };
  });
  // The first builds were for the compiler; of these, in turn, the quickest counts.
  for (let turn = 0; turn < BUILDS; turn++)
    for (const side of turn % 2 === 0 ? sides : [...sides].reverse())
      side.times.buildMs = Math.min(side.times.buildMs, timed(side.make));
  for (let turn = 0; turn < OPENINGS; turn++)
    for (const { open, times } of sides) times.openMs = Math.min(times.openMs, open());
  for (const { ask } of sides) log.slice(0, WARM_UP).forEach((q) => ask(q));
  for (let turn = 0; turn < ROUNDS; turn++)
    log.forEach((q, i) => {
      const order = (i + turn) % 2 === 0 ? sides : [...sides].reverse();
      for (const { ask, times } of order) times.best[i] = Math.min(times.best[i]!, ask(q));
    });
  hostile.forEach((requests, turn) =>
    requests.forEach((request, i) => {
      for (const { askHostile, times } of turn % 2 === 0 ? sides : [...sides].reverse()) {
        const took = askHostile(request);
        if (turn >= HOSTILE_WARM_UP) times.hostile[i] = Math.min(times.hostile[i]!, took);
      }
    }),
  );
  const figures = sides.map(({ times, bytes }): Record<string, number> => ({
    ...percentiles(times.best),
    buildMs: round(times.buildMs),
    openMs: round(times.openMs),
    bytes,
    ...(hostile.length > 0 && { hostileMs: round(Math.max(...times.hostile)) }),
  }));
  const [before, after] = [figures[0]!, figures[1]!];
  return Object.keys(before).map((what) => ({
    what: `${name}: ${what}`,
    before: before[what]!,
    after: after[what]!,
    ratio: round(after[what]! / before[what]!, 3),
  }));
}
