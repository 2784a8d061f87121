import type { RecordJson } from '@yucca/contract';
import { leavesAt } from '@yucca/contract';
import { sortKey, type ValueColumn } from './column.ts';
import { leafType } from './leaf-type.ts';
import { writeTexts, type WrittenTexts } from './written-texts.ts';

/** What a lazily made column reads: the records of a segment. */
interface RecordSource {
  docs: number;
  record: (doc: number) => RecordJson;
}

/**
 * Columns of fields that have none in the segment, because nearly every record holds a text of its own. They are asked
 * for only while an index whose plan names them is being built, so the records are read once, at the first question.
 * Filters read the records instead (see filter/evaluate.ts): they need no column of it.
 */
export class LazyColumns {
  readonly #source: RecordSource;

  constructor(source: RecordSource) {
    this.#source = source;
  }

  values(path: string): ValueColumn | null {
    const numbers = new Map<string, number>();
    const entries: { text: string; type: number; order: string }[] = [];
    const perDoc: number[][] = [];
    for (let doc = 0; doc < this.#source.docs; doc++) {
      const held: number[] = [];
      leavesAt(this.#source.record(doc), path, (value) => {
        const type = leafType(value);
        const text = String(value);
        const key = `${type}${text}`;
        let number = numbers.get(key);
        if (number === undefined) {
          numbers.set(key, (number = entries.length));
          entries.push({ text, type, order: sortKey(text) });
        }
        if (!held.includes(number)) held.push(number);
      });
      perDoc.push(held);
    }
    if (entries.length === 0) return null;
    const sorted = entries.map((_, number) => number);
    sorted.sort((x, y) => {
      const [a, b] = [entries[x]!, entries[y]!];
      return a.order !== b.order ? (a.order < b.order ? -1 : 1) : a.text < b.text ? -1 : a.text > b.text ? 1 : x - y;
    });
    const ranks = new Uint32Array(sorted.length);
    sorted.forEach((number, rank) => (ranks[number] = rank));
    const docStarts = new Uint32Array(this.#source.docs + 1);
    perDoc.forEach((held, doc) => (docStarts[doc + 1] = docStarts[doc]! + held.length));
    const text = (value: number): string => entries[sorted[value]!]!.text;
    let written: WrittenTexts | undefined;
    return {
      size: sorted.length,
      text,
      find: (texts) => Array.from(sorted.keys()).filter((value) => texts.has(text(value))),
      types: Uint8Array.from(sorted, (number) => entries[number]!.type),
      docStarts,
      docValues: Uint32Array.from(perDoc.flat(), (number) => ranks[number]!),
      label: () => null,
      hasLabels: false,
      written: () => (written ??= writeTexts(Array.from(sorted.keys(), text))),
    };
  }
}
