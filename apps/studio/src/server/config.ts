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
  /** A folder of this machine that files may be loaded from by their path; null = none. */
  loadDir: string | null;
}

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '::1']);

export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const host = env.YUCCA_HOST ?? '127.0.0.1';
  return {
    dataDir: path.resolve(/* turbopackIgnore: true */ env.YUCCA_DATA_DIR ?? './data'),
    host,
    loopback: LOOPBACK.has(host),
    adminKey: env.YUCCA_ADMIN_KEY || null,
    password: env.YUCCA_PASSWORD || null,
    loadDir: env.YUCCA_LOAD_DIR ? path.resolve(/* turbopackIgnore: true */ env.YUCCA_LOAD_DIR) : null,
  };
}

/** Whether a `Host` header names this machine itself, which a page of another site cannot make it do. */
export function isLoopbackHost(header: string | null): boolean {
  if (header === null) return false;
  return LOOPBACK.has(header.replace(/:\d+$/, '').replace(/^\[|\]$/g, ''));
}

export const VERSION = '0.1.0';
