import { LIMITS } from '@yucca/contract';
import { Failure } from '../failure';

/** A line may be so long: a record of the largest size, all of it escaped. */
const MOST_LINE = LIMITS.recordBytes * 6;
const LINES_AT_ONCE = 200;

/** The lines of a text in UTF-8, some at a time. Throws a Failure for a line that is longer than any record. */
export async function* linesOf(body: AsyncIterable<Uint8Array>): AsyncGenerator<string[]> {
  const decoder = new TextDecoder();
  let rest = '';
  let waiting: string[] = [];
  for await (const chunk of body) {
    const [end, ...lines] = decoder.decode(chunk, { stream: true }).split('\n');
    rest += end!;
    if (rest.length > MOST_LINE)
      throw new Failure('too-large', `A line is longer than ${MOST_LINE / 1024} kB: send one record a line.`);
    if (lines.length === 0) continue;
    waiting.push(rest, ...lines.slice(0, -1));
    rest = lines.at(-1)!;
    if (waiting.length < LINES_AT_ONCE) continue;
    yield waiting;
    waiting = [];
  }
  yield [...waiting, rest + decoder.decode()];
}
