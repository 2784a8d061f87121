import { as, count, listOf, moment, object, oneOf, orNull, saying, share, text, type Of } from './schema-of.ts';

/** One change, as the audit trail keeps it. */
export const auditEntrySchema = object({
  id: count,
  at: moment,
  /** The label of the key, or `studio`. */
  actor: saying('The label of the key, or “studio”.', text),
  keyId: orNull(text),
  /** The address the request came from, when it is known. */
  remote: saying('The address the request came from, when it is known.', orNull(text)),
  method: text,
  /** Below `/api/v1`. */
  path: text,
  collection: orNull(text),
  /** What belongs to the change, such as the version before and after. */
  detail: orNull(
    as<Record<string, string | number | null>>({
      type: 'object',
      additionalProperties: { type: ['string', 'number', 'null'] },
    }),
  ),
});

export type AuditEntry = Of<typeof auditEntrySchema>;

/** Whether a collection can be searched, and what is under way when not all of it can. */
const collectionReadinessSchema = object(
  {
    name: text,
    /** `partial`: it answers, and records are missing from the answers until its index is made again. */
    state: oneOf('ready', 'opening', 'partial'),
    /** Of its records, 0 to 1. */
    progress: share,
    reason: text,
  },
  'reason',
);

export type CollectionReadiness = Of<typeof collectionReadinessSchema>;

/** What the server says of itself: whether everything can be searched, and what is wrong when it cannot. */
export const readinessSchema = object({
  status: oneOf('ready', 'not-ready'),
  collections: listOf(collectionReadinessSchema),
  /** The database and the disk. */
  storage: object({ state: oneOf('ok', 'refusing'), reason: orNull(text), since: orNull(moment) }),
  /** The last check of the database, after a stop that was not clean or when it was asked for. */
  integrity: object({
    state: oneOf('unchecked', 'checking', 'ok', 'damaged'),
    checkedAt: orNull(moment),
    problems: listOf(text),
  }),
  threads: listOf(object({ name: text, alive: count, replaced: count })),
});

export type Readiness = Of<typeof readinessSchema>;

/** A copy of everything, as it lies in the folder of backups. */
export const backupSchema = object({
  /** The name of its folder. */
  name: text,
  at: moment,
  bytes: count,
  collections: count,
  records: count,
});

export type Backup = Of<typeof backupSchema>;

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
