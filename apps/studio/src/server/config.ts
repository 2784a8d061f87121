import { availableParallelism } from 'node:os';
import path from 'node:path';

/** What the environment says, read once. */
export interface Config {
  dataDir: string;
  host: string;
  /** The studio is open without a key only when nothing but this machine can reach it. */
  loopback: boolean;
  adminKey: string | null;
  /** Of the studio, where it is reached from other machines; null = the first visitor sets it. */
  password: string | null;
  /** Where visitors reach this server, when a proxy stands before it; null = where it listens. */
  publicUrl: string | null;
  /** Addresses of proxies whose forwarding headers are believed, besides this machine's. */
  proxies: readonly string[];
  /** Requests without a key that one address may send a minute. */
  anonymousPerMinute: number;
  /** Where backups go, how often one is made by itself (hours, null = never) and how many of those are kept. */
  backupDir: string;
  backupEveryH: number | null;
  backupsKept: number;
  /** `open`: whoever asks is told the metrics. */
  metricsOpen: boolean;
  /** Days that visitors' events and single searches are kept, and days that their sums are. */
  eventDays: number;
  insightDays: number;
  /** Visitors that a query must have come from to be shown in insights. */
  insightLeast: number;
  /** Threads that build an index side by side when somebody waits for it. */
  builders: number;
  /** A folder of this machine that files may be loaded from by their path; null = none. */
  loadDir: string | null;
  /** The kit as a package of npm, which comes along with projects that are handed over. */
  kitFile: string;
  /** Where the scripts for folders without a server are. */
  offlineDir: string;
}

/** Each makes a segment of its own, which searches go through one after the other: more are worth it only for loads. */
const BUILDERS = 2;
const LOOPBACK = new Set(['127.0.0.1', 'localhost', '::1']);

export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const host = env.YUCCA_HOST ?? '127.0.0.1';
  const dataDir = path.resolve(/* turbopackIgnore: true */ env.YUCCA_DATA_DIR ?? './data');
  return {
    dataDir,
    publicUrl: env.YUCCA_PUBLIC_URL || null,
    proxies: (env.YUCCA_PROXIES ?? '').split(',').flatMap((one) => one.trim() || []),
    anonymousPerMinute: positive(env.YUCCA_ANONYMOUS_PER_MINUTE) ?? 1_200,
    backupDir: path.resolve(/* turbopackIgnore: true */ env.YUCCA_BACKUP_DIR || `${dataDir}-backups`),
    backupEveryH: positive(env.YUCCA_BACKUP_EVERY),
    backupsKept: positive(env.YUCCA_BACKUPS_KEPT) ?? 7,
    metricsOpen: env.YUCCA_METRICS === 'open',
    eventDays: positive(env.YUCCA_EVENT_DAYS) ?? 30,
    insightDays: positive(env.YUCCA_INSIGHT_DAYS) ?? 400,
    insightLeast: positive(env.YUCCA_INSIGHT_LEAST) ?? 1,
    builders: Math.floor(positive(env.YUCCA_BUILDERS) ?? Math.min(BUILDERS, availableParallelism())),
    host,
    loopback: LOOPBACK.has(host),
    adminKey: env.YUCCA_ADMIN_KEY || null,
    password: env.YUCCA_PASSWORD || null,
    loadDir: env.YUCCA_LOAD_DIR ? path.resolve(/* turbopackIgnore: true */ env.YUCCA_LOAD_DIR) : null,
    kitFile: path.resolve(/* turbopackIgnore: true */ env.YUCCA_KIT ?? '../../packages/kit/packed/yucca-kit.tgz'),
    offlineDir: path.resolve(/* turbopackIgnore: true */ env.YUCCA_OFFLINE ?? '../../packages/offline/dist'),
  };
}

/** A positive number; null for anything else. */
function positive(text: string | undefined): number | null {
  const value = Number(text);
  return text && Number.isFinite(value) && value > 0 ? value : null;
}

/** Whether a `Host` header names this machine itself, which a page of another site cannot make it do. */
export function isLoopbackHost(header: string | null): boolean {
  if (header === null) return false;
  return LOOPBACK.has(header.replace(/:\d+$/, '').replace(/^\[|\]$/g, ''));
}

export const VERSION = '0.1.0';
