/**
 * Formats that are read as a whole and become JSON, by well-known libraries that are loaded when they are needed: the
 * studio shows what the server will load because both run this.
 */
import { WHOLE_FORMATS } from '@yucca/contract';
import { FormatError } from './format-error';
import { readParquet } from './parquet';
import { asUtf8, charsetOf } from '@/text/charset';
import { readHtmlPage, readMarkdown, readPages } from './pages';
import { readSheets } from './sheets';
import { readXml } from './xml';
import { readYaml } from './yaml';

/** Larger files are turned away: they would be held in memory several times over. */
export const MOST_BYTES = 64 * 1024 * 1024;

/** So much of a text is looked at to tell what it is written in. */
const LOOKED_AT = 64 * 1024;

interface WholeReader {
  /** For a person. */
  label: string;
  /** Its values have types of their own. */
  isTyped: boolean;
  /** It is text, and is read in UTF-8. */
  isText: boolean;
  read: (bytes: Uint8Array, most: number) => Promise<{ value: unknown; rows?: number }>;
}

/** A reader that reads all there is. */
const valueOf =
  (read: (bytes: Uint8Array) => Promise<unknown>): WholeReader['read'] =>
  async (bytes) => ({ value: await read(bytes) });

/** By media type. A new format is a reader and a line here. */
export const WHOLE_READERS: Readonly<Record<string, WholeReader>> = {
  [WHOLE_FORMATS.yaml]: { label: 'YAML', isTyped: true, isText: true, read: valueOf(readYaml) },
  [WHOLE_FORMATS.xml]: { label: 'XML', isTyped: false, isText: true, read: valueOf(readXml) },
  [WHOLE_FORMATS.xlsx]: {
    label: 'Excel',
    isTyped: true,
    isText: false,
    read: valueOf(readSheets),
  },
  [WHOLE_FORMATS.parquet]: { label: 'Parquet', isTyped: true, isText: false, read: readParquet },
  [WHOLE_FORMATS.markdown]: { label: 'Markdown', isTyped: true, isText: true, read: valueOf(readMarkdown) },
  [WHOLE_FORMATS.html]: { label: 'HTML', isTyped: true, isText: true, read: valueOf(readHtmlPage) },
  [WHOLE_FORMATS.zip]: { label: 'Pages', isTyped: true, isText: false, read: valueOf(readPages) },
};

/** Whether a media type names such a format. */
export const isWhole = (mediaType: string): boolean => Object.hasOwn(WHOLE_READERS, mediaType);

/** A file as JSON in UTF-8, and how many rows it has, where not all of them were read. */
export interface AsJson {
  json: Uint8Array;
  rows: number | null;
}

/**
 * A file of such a format as JSON. `charset`: what its sender says it is written in. `most`: rows that are wanted, of
 * formats that can be read in part. Throws a FormatError.
 */
export async function asJson(
  bytes: Uint8Array,
  mediaType: string,
  charset: string | null,
  most = Infinity,
): Promise<AsJson> {
  const { label, read, isText } = WHOLE_READERS[mediaType]!;
  if (bytes.length > MOST_BYTES)
    throw new FormatError(
      `${label} is read as a whole, up to ${MOST_BYTES / 1024 / 1024} MB. Save it as CSV or JSON Lines; those may be of any size.`,
    );
  let found: Awaited<ReturnType<WholeReader['read']>>;
  try {
    found = await read(isText ? asUtf8(bytes, charsetOf(bytes.subarray(0, LOOKED_AT), charset)) : bytes, most);
  } catch (error) {
    if ((error as Error).name === 'FormatError') throw error;
    throw new FormatError(`This could not be read as ${label}: ${(error as Error).message.split('\n', 1)[0]}`);
  }
  const { value, rows = null } = found;
  const text = JSON.stringify(value, (_, part: unknown) => (typeof part === 'bigint' ? plain(part) : part));
  return { json: new TextEncoder().encode(text), rows };
}

/** A whole number that JSON holds exactly; as text where it does not. */
const plain = (value: bigint): number | string =>
  value >= BigInt(Number.MIN_SAFE_INTEGER) && value <= BigInt(Number.MAX_SAFE_INTEGER) ? Number(value) : String(value);
