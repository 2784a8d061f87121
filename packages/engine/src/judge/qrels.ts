import { GRADES, type Judgement, percentDecoded } from '@yucca/contract';

/** A field of a line: no white space may stand in it, so it is percent-encoded as in an address (RFC 3986). */
const encode = (text: string): string => encodeURIComponent(text.toWellFormed());

const decode = (text: string): string => percentDecoded(text) ?? text;

/**
 * Writes judgements as TREC qrels: a line for each judged record with the topic, an unused 0, the document and its
 * grade. Topic and document are the query and the record's key, percent-encoded.
 */
export function printQrels(judgements: readonly Judgement[]): string {
  return judgements
    .flatMap(({ query, grades }) =>
      Object.entries(grades).map(([id, grade]) => `${encode(query)} 0 ${encode(id)} ${grade}\n`),
    )
    .join('');
}

export interface QrelsError {
  /** From 1. */
  line: number;
  detail: string;
}

/**
 * Reads TREC qrels. Grades above the highest count as it, negative ones as 0; lines that are no judgement are named.
 */
export function parseQrels(text: string): { judgements: Judgement[]; errors: QrelsError[] } {
  const byQuery = new Map<string, Judgement>();
  const errors: QrelsError[] = [];
  text.split(/\r?\n/).forEach((line, i) => {
    if (line.trim() === '') return;
    const [topic, , document, grade, ...more] = line.trim().split(/\s+/);
    if (document === undefined || grade === undefined || more.length > 0 || !/^-?\d{1,9}$/.test(grade)) {
      errors.push({
        line: i + 1,
        detail: 'A line holds a topic, 0, a document and a whole number, with spaces between them.',
      });
      return;
    }
    const query = decode(topic!);
    const judgement = byQuery.get(query) ?? { query, grades: {} };
    byQuery.set(query, judgement);
    Object.defineProperty(judgement.grades, decode(document), {
      value: Math.min(GRADES.length - 1, Math.max(0, Number(grade))),
      enumerable: true,
      configurable: true,
      writable: true,
    });
  });
  return { judgements: [...byQuery.values()], errors };
}
