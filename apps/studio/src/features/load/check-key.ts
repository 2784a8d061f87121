import { KeyFinder, type KeyFacts, type KeyGuess } from '@yucca/engine/understand';
import { rowsOfFile, type RowsWanted } from './rows-of-file';

/** What all rows of a file say of its keys. */
export interface KeyCheck {
  guess: KeyGuess;
  facts: Map<string, KeyFacts>;
}

/** How often it is told how far a check is, in bytes of the file. */
const TELL_EVERY = 4 * 1024 * 1024;

/** Looks at the key of every row of a file. `fields`: those that may be it. */
export async function checkKeys(
  file: Blob,
  wanted: RowsWanted,
  fields: readonly string[],
  onShare: (share: number) => void,
): Promise<KeyCheck> {
  const finder = new KeyFinder(fields);
  let told = 0;
  const onBytes = (bytes: number): void => {
    if (bytes - told < TELL_EVERY) return;
    told = bytes;
    onShare(bytes / file.size);
  };
  for await (const row of rowsOfFile(file, wanted, onBytes)) finder.add(row);
  return { guess: finder.guess(true), facts: finder.facts() };
}
