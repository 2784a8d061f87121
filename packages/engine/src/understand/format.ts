import { parsedJson, WHOLE_FORMATS } from '@yucca/contract';
import { guessBinary } from './binary.ts';
import { SEPARATORS } from './separator.ts';
import { tableStart } from './table-start.ts';

/** What a file holds, told from its first bytes and, where those leave a doubt, its name. */
export type FileFormat =
  'json' | 'json-lines' | 'csv' | 'yaml' | 'xml' | 'xlsx' | 'parquet' | 'markdown' | 'html' | 'pages';

export type FormatGuess =
  | { ok: true; format: FileFormat; mediaType: string; /** Why, for a person. */ reason: string }
  | { ok: false; reason: string };

/** Those that are text. */
const MEDIA_TYPES = {
  json: 'application/json',
  'json-lines': 'application/x-ndjson',
  csv: 'text/csv',
  yaml: WHOLE_FORMATS.yaml,
  xml: WHOLE_FORMATS.xml,
  markdown: WHOLE_FORMATS.markdown,
  html: WHOLE_FORMATS.html,
} as const;

/** Guesses the format of a file from its beginning in UTF-8 (64 kB are plenty) and its name. */
export function guessFormat(head: Uint8Array, fileName = ''): FormatGuess {
  if (head.length === 0) return { ok: false, reason: 'The file is empty: there is nothing to load.' };
  if (head[0] === 0x1f && head[1] === 0x8b) {
    return { ok: false, reason: 'The file is compressed with gzip. Unpack it and drop what is inside.' };
  }
  const binary = guessBinary(head, fileName);
  if (binary !== null) return 'refusal' in binary ? { ok: false, reason: binary.refusal } : { ok: true, ...binary };
  if (head.includes(0)) {
    return {
      ok: false,
      reason: `This is a binary file of a kind Yucca does not know. It reads ${READ}.`,
    };
  }
  const text = new TextDecoder()
    .decode(head)
    .replace(/^\ufeff/, '')
    .trimStart();
  if (text === '') return { ok: false, reason: 'The file holds nothing but white space: there is nothing to load.' };
  const found = (format: keyof typeof MEDIA_TYPES, reason: string): FormatGuess => ({
    ok: true,
    format,
    mediaType: MEDIA_TYPES[format],
    reason,
  });
  const marked = markedUp(text, fileName);
  if (marked !== null) return found(marked.format, marked.reason);
  if (text.startsWith('[')) return found('json', 'it begins with [, so it is a list of records');
  if (text.startsWith('{')) {
    const lines = text.split('\n', 3).map((line) => line.trim());
    const named = /\.(jsonl|ndjson)$/i.test(fileName);
    // One line alone may be a whole document as well.
    if (parsedJson(lines[0]!) !== undefined && (named || lines[1]?.startsWith('{')))
      return found('json-lines', 'every line is one record');
    return named ? found('json-lines', 'its name says so') : found('json', 'it begins with {, so it is one record');
  }
  if (/\.(jsonl|ndjson)$/i.test(fileName)) return found('json-lines', 'its name says so');
  const named = /\.(csv|tsv|tab|psv)$/i.test(fileName);
  const { separator, skip, rows, cells } = tableStart(text);
  // A letter has commas too; a table has them in its second line as well.
  if (cells > 1 && (named || rows > 0)) {
    const where = skip === 0 ? 'its first line' : `line ${skip + 1}`;
    return found('csv', `${where} names columns, separated by ${SEPARATORS[separator]}`);
  }
  if (named) return found('csv', 'its name says so; it has one column');
  return {
    ok: false,
    reason: `Yucca could not tell what this text is. It reads ${READ}.`,
  };
}

const READ = 'JSON, JSON Lines, CSV with a header row, Excel (.xlsx), YAML, XML, Parquet, Markdown and HTML';

/** What a text is by its name or its first signs, where those say more than its rows would. */
function markedUp(text: string, fileName: string): { format: keyof typeof MEDIA_TYPES; reason: string } | null {
  const named = (endings: string): boolean => new RegExp(`\\.(${endings})$`, 'i').test(fileName);
  const start = text.slice(0, 200).toLowerCase();
  if (/^<(!doctype html|html)/.test(start) || named('html?|xhtml')) return { format: 'html', reason: 'it is a page' };
  if (named('md|markdown|mdx')) return { format: 'markdown', reason: 'its name says so' };
  if (start.startsWith('<?xml') || (start.startsWith('<') && named('xml|rss|atom|kml|gpx')))
    return { format: 'xml', reason: 'it begins with an element' };
  if (named('ya?ml')) return { format: 'yaml', reason: 'its name says so' };
  return start.startsWith('---\n') || start.startsWith('%yaml')
    ? { format: 'yaml', reason: 'it begins as a document of YAML does' }
    : null;
}

/** A name for every column of a header: one without is called by its number, one that repeats gets a number too. */
export function nameColumns(header: readonly string[]): string[] {
  const taken = new Set<string>();
  return header.map((cell, i) => {
    const name = cell.trim() || `column ${i + 1}`;
    let free = name;
    for (let n = 2; taken.has(free); n++) free = `${name} ${n}`;
    taken.add(free);
    return free;
  });
}
