import { Failure } from '../failure';

/** What SQLite and the system say when it is the disk that refuses, and the sentence for a person. */
const SENTENCES: readonly [code: RegExp, sentence: string][] = [
  [
    /^(SQLITE_FULL|ENOSPC|EDQUOT)/,
    'The disk is full. Nothing of this was stored; it can be sent again when there is space.',
  ],
  [
    /^(SQLITE_READONLY|SQLITE_CANTOPEN|EROFS|EACCES|EPERM)/,
    'The data folder cannot be written. Nothing of this was stored.',
  ],
  [/^(SQLITE_IOERR|EIO|EFBIG)/, 'The disk did not take what was to be written. Nothing of this was stored.'],
  [
    /^(SQLITE_CORRUPT|SQLITE_NOTADB)/,
    'The database is damaged. See /api/v1/ready, and docs/operations.md for restoring a backup.',
  ],
  [/^SQLITE_BUSY/, 'The database is busy. Try again in a moment.'],
];

/** The code of an error of SQLite or the system, also of one that another thread met; null for any other. */
export function storageCodeOf(error: unknown): string | null {
  // Errors of the database driver are errors by their prototype only.
  if (typeof error !== 'object' || error === null) return null;
  const note = 'note' in error ? (error.note as { code?: unknown }) : (error as { code?: unknown });
  return typeof note.code === 'string' && SENTENCES.some(([code]) => code.test(note.code as string)) ? note.code : null;
}

/** The sentence that goes with such a code. */
export function storageSentence(code: string): string {
  return SENTENCES.find(([pattern]) => pattern.test(code))?.[1] ?? 'The disk refused.';
}

/** The failure to tell when it was the disk that refused; null when it was not. */
export function storageFailureOf(error: unknown): Failure | null {
  const code = storageCodeOf(error);
  return code === null ? null : new Failure('unavailable', storageSentence(code));
}
