import { parseRow } from './parse-row';
import { MAX_ROW_BYTES, type Parser, type Row } from './parser';

const NEWLINE = 10;
const decoder = new TextDecoder();

/** JSON Lines: one JSON value a line. Blank lines are passed over; a broken line never stops the next. */
export const readJsonLines: Parser = async function* (input) {
  let line = 0;
  let rest: Buffer[] = [];
  let restBytes = 0;
  let tooLong = false;
  const finish = (part: Buffer): Row | null => {
    line++;
    const whole = rest.length > 0 ? Buffer.concat([...rest, part]) : part;
    rest = [];
    restBytes = 0;
    if (tooLong || whole.length > MAX_ROW_BYTES) {
      tooLong = false;
      return { line, bytes: 0, raw: () => '', error: `the line is longer than ${MAX_ROW_BYTES / 1024 / 1024} MB` };
    }
    return readLine(line, decoder.decode(whole));
  };
  for await (const chunk of input as AsyncIterable<Buffer>) {
    let from = 0;
    for (let at = chunk.indexOf(NEWLINE); at !== -1; at = chunk.indexOf(NEWLINE, from)) {
      const row = finish(chunk.subarray(from, at));
      if (row) yield row;
      from = at + 1;
    }
    if (from === chunk.length) continue;
    restBytes += chunk.length - from;
    if (restBytes > MAX_ROW_BYTES) {
      tooLong = true;
      rest = [];
    } else {
      rest.push(chunk.subarray(from));
    }
  }
  if (restBytes > 0) {
    const row = finish(Buffer.alloc(0));
    if (row) yield row;
  }
};

function readLine(line: number, text: string): Row | null {
  const trimmed = (line === 1 ? text.replace(/^\ufeff/, '') : text).trim();
  if (trimmed === '') return null;
  return { line, bytes: text.length, raw: () => trimmed, ...parseRow(trimmed) };
}
