import { ArrayElements } from '@yucca/engine/understand';
import { parseRow } from './parse-row';
import { InputError, MAX_ROW_BYTES, type Parser, type Row } from './parser';

/** A JSON array of records, or one record. The array is read as it arrives; a syntax error ends the input there. */
export const readJsonArray: Parser = async function* (input) {
  let kind: 'array' | 'object' | null = null;
  const single: Buffer[] = [];
  let singleBytes = 0;
  let line = 0;
  const elements = new ArrayElements(MAX_ROW_BYTES);
  for await (const chunk of input as AsyncIterable<Buffer>) {
    let bytes = chunk;
    if (kind === null) {
      const text = chunk.toString('latin1').replace(/^\u00ef\u00bb\u00bf/, '');
      const first = /[^\s]/.exec(text);
      if (first === null) continue;
      if (first[0] !== '[' && first[0] !== '{')
        throw new InputError('The input is neither a JSON array nor a JSON object.');
      kind = first[0] === '[' ? 'array' : 'object';
      if (text.length < chunk.length) bytes = chunk.subarray(3);
    }
    if (kind === 'object') {
      single.push(bytes);
      singleBytes += bytes.length;
      if (singleBytes > MAX_ROW_BYTES)
        throw new InputError('One JSON object of this size is no record. Send an array of records, or JSON Lines.');
      continue;
    }
    try {
      for (const text of elements.write(bytes)) {
        const row = readElement(line + 1, text);
        line++;
        yield row;
      }
    } catch (error) {
      if (!(error instanceof SyntaxError)) throw error;
      throw new InputError(`The JSON breaks off after ${line} records: ${error.message}`);
    }
  }
  if (kind === 'object') {
    const text = Buffer.concat(single).toString('utf8');
    const read = parseRow(text);
    if ('error' in read) throw new InputError(`The input is no record: ${read.error}.`);
    yield { line: 1, bytes: text.length, raw: () => text.trim(), ...read };
  }
  if (kind === 'array' && !elements.closed)
    throw new InputError(`The JSON array is not closed; ${line} records were read.`);
};

function readElement(line: number, text: string | null): Row {
  if (text === null)
    return { line, bytes: 0, raw: () => '', error: `the record is longer than ${MAX_ROW_BYTES / 1024 / 1024} MB` };
  const trimmed = text.trim();
  const read = parseRow(trimmed);
  // A comma or a bracket that stands wrong may be one of the array: what follows cannot be told apart.
  if ('error' in read && read.error.startsWith('not JSON')) throw new SyntaxError(read.error);
  return { line, bytes: text.length, raw: () => trimmed, ...read };
}
