import { parsedJson } from '@yucca/contract';

/** What a file holds, told from its first bytes and, where those leave a doubt, its name. */
export type FileFormat = 'json' | 'json-lines' | 'csv';

export type FormatGuess =
  | { ok: true; format: FileFormat; mediaType: string; /** Why, for a person. */ reason: string }
  | { ok: false; reason: string };

const MEDIA_TYPES: Record<FileFormat, string> = {
  json: 'application/json',
  'json-lines': 'application/x-ndjson',
  csv: 'text/csv',
};

/** Guesses the format of a file from its beginning (64 kB are plenty) and its name. */
export function guessFormat(head: Uint8Array, fileName = ''): FormatGuess {
  if (head.length === 0) return { ok: false, reason: 'The file is empty: there is nothing to load.' };
  if ((head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff)) {
    return { ok: false, reason: 'The file is written in UTF-16. Save it as UTF-8 and drop it again.' };
  }
  if (head[0] === 0x1f && head[1] === 0x8b) {
    return { ok: false, reason: 'The file is compressed with gzip. Unpack it and drop what is inside.' };
  }
  if (head.includes(0)) {
    return { ok: false, reason: 'This is a binary file, not text. Yucca reads JSON, JSON Lines and CSV.' };
  }
  const text = new TextDecoder()
    .decode(head)
    .replace(/^\ufeff/, '')
    .trimStart();
  if (text === '') return { ok: false, reason: 'The file holds nothing but white space: there is nothing to load.' };
  const found = (format: FileFormat, reason: string): FormatGuess => ({
    ok: true,
    format,
    mediaType: MEDIA_TYPES[format],
    reason,
  });
  if (text.startsWith('[')) return found('json', 'it begins with [, so it is a list of records');
  if (text.startsWith('{')) {
    const lines = text.split('\n', 3).map((line) => line.trim());
    if (parsedJson(lines[0]!) !== undefined && (lines.length === 1 || lines[1] === '' || lines[1]!.startsWith('{'))) {
      return found('json-lines', 'every line is one record');
    }
    return /\.(jsonl|ndjson)$/i.test(fileName)
      ? found('json-lines', 'its name says so')
      : found('json', 'it begins with {, so it is one record');
  }
  if (/\.(jsonl|ndjson)$/i.test(fileName)) return found('json-lines', 'its name says so');
  const [header = '', second] = text.split(/\r?\n/, 2);
  const separator = sniffSeparator(text);
  const named = /\.(csv|tsv)$/i.test(fileName);
  // A letter has commas too; a table has them in its second line as well.
  if (header.includes(separator) && (named || second?.includes(separator))) {
    const name = { ',': 'commas', ';': 'semicolons', '\t': 'tabs' }[separator];
    return found('csv', `its first line names columns, separated by ${name}`);
  }
  if (named) return found('csv', 'its name says so; it has one column');
  return {
    ok: false,
    reason: 'Yucca could not tell what this text is. It reads JSON, JSON Lines and CSV with a header row.',
  };
}

/** The separator of a CSV: whichever of comma, semicolon and tab its header row uses most, outside quotes. */
export function sniffSeparator(text: string): ',' | ';' | '\t' {
  const counts = { ',': 0, ';': 0, '\t': 0 };
  let quoted = false;
  for (const char of text) {
    if (char === '"') quoted = !quoted;
    else if (!quoted && (char === '\n' || char === '\r')) break;
    else if (!quoted && char in counts) counts[char as keyof typeof counts]++;
  }
  if (counts['\t'] > counts[','] && counts['\t'] >= counts[';']) return '\t';
  return counts[';'] > counts[','] ? ';' : ',';
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
