/** Codes of the process's end (sysexits.h), for whoever starts it again by itself. */
const EXIT = {
  /** The database cannot be opened. */
  database: 74,
  /** Another process works on the folder. */
  taken: 75,
  /** The address cannot be listened on. */
  address: 69,
  other: 1,
} as const;

/** Ends the process over an error of its start: with a sentence and a code, and no stack. */
export function exitOver(thrown: unknown): never {
  const error = thrown as NodeJS.ErrnoException;
  const [code, sentence] = reasonOf(error);
  process.stderr.write(`\n  ${sentence}\n\n`);
  process.exit(code);
}

function reasonOf(error: NodeJS.ErrnoException): [code: number, sentence: string] {
  if (error.name === 'FolderTaken') return [EXIT.taken, error.message];
  if (error.name === 'DatabaseMissing') return [EXIT.database, error.message];
  if (error.code === 'EADDRINUSE')
    return [EXIT.address, `Something else listens on the port already (${error.message}).`];
  if (error.code === 'EADDRNOTAVAIL' || error.code === 'EACCES')
    return [EXIT.address, `The address cannot be listened on (${error.message}).`];
  if (error.code?.startsWith('SQLITE_'))
    return [
      EXIT.database,
      `The database cannot be opened: ${error.message} (${error.code}). docs/operations.md says how a backup is restored.`,
    ];
  return [EXIT.other, `Yucca could not start: ${error.message}`];
}
