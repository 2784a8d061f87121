import { FormatError } from './format-error';

/** What a packed file may hold, unpacked. */
const MOST_UNPACKED = 512 * 1024 * 1024;
const MOST_FILES = 20_000;

/** Refuses an archive (ZIP) that says it unpacks to more than any real one. Throws a FormatError. */
export async function requireUnpackable(bytes: Uint8Array): Promise<void> {
  await unpacked(bytes, () => false);
}

/** The files of an archive whose names are wanted. Throws a FormatError. */
export async function unpacked(
  bytes: Uint8Array,
  isWanted: (name: string) => boolean,
): Promise<{ name: string; bytes: Uint8Array }[]> {
  const { unzipSync } = await import('fflate');
  let [size, files] = [0, 0];
  const found = unzipSync(bytes, {
    filter: ({ name, originalSize }) => {
      size += originalSize;
      files++;
      if (size > MOST_UNPACKED || files > MOST_FILES)
        throw new FormatError('The archive unpacks to more than 512 MB or 20,000 files; that is not read.');
      return isWanted(name);
    },
  });
  return Object.entries(found).map(([name, content]) => ({ name, bytes: content }));
}
