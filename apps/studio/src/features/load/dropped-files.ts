/** Pages go together: a folder of them is loaded as one. */
const PAGE = /\.(md|markdown|mdx|html?|xhtml)$/i;
/** What nobody means who drops a folder. */
const PASSED_OVER = /^(\.|__MACOSX$|node_modules$)/;
/** Of a folder, so much is read; a shop's pages are a tenth of it. */
const MOST = { files: 5_000, bytes: 60_000_000 };

/** A folder that holds more than is read at once; its message is for a person. */
export class FolderTooLarge extends Error {
  override name = 'FolderTooLarge';
}

/**
 * The files of a drop. A folder's pages in Markdown or HTML become one archive under its name, its other files come one
 * by one. Begins to read before it returns: what was dropped is gone after the event. Rejects with a FolderTooLarge.
 */
export async function droppedFiles(data: Pick<DataTransfer, 'files' | 'items'>): Promise<File[]> {
  const files = [...data.files];
  const entries = [...data.items].map((item) => item.webkitGetAsEntry?.() ?? null);
  const folders = entries.filter((entry) => entry?.isDirectory === true) as FileSystemDirectoryEntry[];
  // Browsers list a folder among the files, as one without content.
  const names = new Set(folders.map(({ name }) => name));
  const found = files.filter(({ name }) => !names.has(name));
  for (const folder of folders) found.push(...(await filesOf(folder)));
  return found;
}

async function filesOf(folder: FileSystemDirectoryEntry): Promise<File[]> {
  const inside: { path: string; file: File }[] = [];
  let bytes = 0;
  const walk = async (directory: FileSystemDirectoryEntry, path: string): Promise<void> => {
    for (const entry of await entriesOf(directory)) {
      if (PASSED_OVER.test(entry.name)) continue;
      const at = `${path}${entry.name}`;
      if (entry.isDirectory) {
        await walk(entry as FileSystemDirectoryEntry, `${at}/`);
        continue;
      }
      const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
      bytes += file.size;
      inside.push({ path: at, file });
      if (inside.length > MOST.files || bytes > MOST.bytes)
        throw new FolderTooLarge(
          `“${folder.name}” holds more than ${MOST.files.toLocaleString('en')} files or ${MOST.bytes / 1e6} MB. Drop a part of it, or put it into an archive (ZIP).`,
        );
    }
  };
  await walk(folder, '');
  const pages = inside.filter(({ path }) => PAGE.test(path));
  const others = inside.filter(({ path }) => !PAGE.test(path)).map(({ file }) => file);
  return pages.length === 0 ? others : [await archiveOf(folder.name, pages), ...others];
}

/** All entries of a folder: a reader gives them in parts. */
async function entriesOf(directory: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> {
  const reader = directory.createReader();
  const all: FileSystemEntry[] = [];
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (part.length === 0) return all;
    all.push(...part);
  }
}

async function archiveOf(name: string, pages: readonly { path: string; file: File }[]): Promise<File> {
  const { zipSync } = await import('fflate');
  const contents = await Promise.all(
    pages.map(async ({ path, file }) => [path, new Uint8Array(await file.arrayBuffer())] as const),
  );
  // Not packed: it goes no further than this machine's server in most cases, and packing holds the page.
  const bytes = zipSync(Object.fromEntries(contents), { level: 0 });
  return new File([bytes as Uint8Array<ArrayBuffer>], `${name}.zip`, { type: 'application/zip' });
}
