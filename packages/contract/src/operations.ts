/** One change, as the audit trail keeps it. */
export interface AuditEntry {
  id: number;
  at: string;
  /** The label of the key, or `studio`. */
  actor: string;
  keyId: string | null;
  /** The address the request came from, when it is known. */
  remote: string | null;
  method: string;
  /** Below `/api/v1`. */
  path: string;
  collection: string | null;
  /** What belongs to the change, such as the version before and after. */
  detail: Record<string, string | number | null> | null;
}

/** Whether a collection can be searched, and what is under way when not all of it can. */
export interface CollectionReadiness {
  name: string;
  /** `partial`: it answers, and records are missing from the answers until its index is made again. */
  state: 'ready' | 'opening' | 'partial';
  /** Of its records, 0 to 1. */
  progress: number;
  reason?: string;
}

/** What the server says of itself: whether everything can be searched, and what is wrong when it cannot. */
export interface Readiness {
  status: 'ready' | 'not-ready';
  collections: CollectionReadiness[];
  /** The database and the disk. */
  storage: { state: 'ok' | 'refusing'; reason: string | null; since: string | null };
  /** The last check of the database, after a stop that was not clean or when it was asked for. */
  integrity: { state: 'unchecked' | 'checking' | 'ok' | 'damaged'; checkedAt: string | null; problems: string[] };
  threads: { name: string; alive: number; replaced: number }[];
}

/** A copy of everything, as it lies in the folder of backups. */
export interface Backup {
  /** The name of its folder. */
  name: string;
  at: string;
  bytes: number;
  collections: number;
  records: number;
}

/** What stands in `backup.json` of a backup's folder: enough to tell whether it is whole, and what is in it. */
export interface BackupFacts {
  /** Of this format. */
  backup: 1;
  /** Of the Yucca that made it. */
  version: string;
  at: string;
  collections: { name: string; records: number }[];
  /** Paths below the folder, with `/` between their parts. */
  files: { path: string; bytes: number; sha256: string }[];
}

/** The file of a backup that says what is in it. */
export const BACKUP_FACTS = 'backup.json';
/** The database, in a data folder and in a backup. */
export const DATABASE_FILE = 'yucca.sqlite';
