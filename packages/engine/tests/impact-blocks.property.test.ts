import { completeTuning, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { ImpactBlocks } from '../src/query/rank/impact-blocks.ts';
import { matchQuery } from '../src/query/match/match-query.ts';
import { parseQuery } from '../src/query/parse/parse-query.ts';
import { Scorer } from '../src/query/rank/scorer.ts';
import { anywhere } from '../src/query/match/word-match.ts';
import { words } from '../src/text/words.ts';
import { generationOf, recordList, runs } from './arbitraries.ts';

/** Two neighbouring words of some record, as a phrase: what a list of words alone would hardly ever hit. */
function somePhrase(records: readonly RecordJson[], at: number): string {
  const texts = records.flatMap(({ name }) =>
    typeof name === 'string' && words(name).length > 1 ? [words(name)] : [],
  );
  const text = texts[at % Math.max(1, texts.length)] ?? words('red rose');
  const first = at % (text.length - 1);
  return `"${text[first]!.text} ${text[first + 1]!.text}"`;
}

const never = (): never => {
  throw new Error('nobody stops this');
};

test('blocks hold every document of a word, and none scores more than the block it is first met in', () => {
  const query = fc.oneof(fc.constantFrom('ros', 'rose', 'rosse', 'snakeplant', 'al', 'ag', 'agv'), fc.nat());
  const weights = fc.tuple(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }));
  fc.assert(
    fc.property(recordList, query, weights, (records, asked, [name, care]) => {
      const q = typeof asked === 'string' ? asked : somePhrase(records, asked);
      const tuning = completeTuning({
        search: [
          { field: 'name', weight: name },
          { field: 'care', weight: care },
        ],
      });
      const generation = generationOf(records, tuning);
      const parsed = parseQuery(q, tuning);
      const { segments, idfs } = matchQuery(generation, tuning, { q }, parsed, {}, never);
      fc.pre(parsed.words.length === 1);
      for (const match of segments) {
        const [word] = match.words;
        const blocks = new ImpactBlocks(match.segment, word!, match.fields, 1);
        const scorer = new Scorer(match, idfs);
        const met = new Set<number>();
        let before = Infinity;
        for (;;) {
          const { bound } = blocks;
          const ranges = blocks.take();
          if (ranges.length === 0) break;
          expect(bound).toBeLessThanOrEqual(before + 1e-9);
          before = bound;
          for (const { docs, from, to } of ranges) {
            for (const doc of docs.subarray(from, to)) {
              // A thousandth for the rounding of scores.
              if (!met.has(doc)) expect(scorer.score(doc)).toBeLessThanOrEqual(100 * bound + 0.002);
              met.add(doc);
            }
          }
        }
        expect([...met].sort((a, b) => a - b)).toEqual([...anywhere(word!).list()]);
        match.codes.release();
      }
    }),
    runs(200),
  );
});
