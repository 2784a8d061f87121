import type { VisitorJudgements } from '@yucca/contract';
import { clickModelOf, gradesFrom, type Shown } from '@yucca/engine/visitors';
import type { Db } from '../db/open';
import type { InsightScope } from './read-insights';

/** Queries that are judged at the most, those that were asked most. */
const MOST_QUERIES = 500;

/** Judgements that visitors' clicks make, once it is taken into account that the first ranks are looked at most. */
export function readJudgements(db: Db, { collectionId, range }: InsightScope): VisitorJudgements {
  const { $client: client } = db;
  const texts = client
    .prepare(
      `select words, text, sum(searches) as searches from insight_queries
       where collection_id = ? and tag = '' and day between ? and ? group by words order by searches desc, words limit ?`,
    )
    .all(collectionId, range.from, range.to, MOST_QUERIES) as { words: string; text: string }[];
  // What was opened was seen, however short.
  const rows = client.prepare(
    `select words as query, record_id as recordId, rank, max(sum(shown), sum(opened)) as shown, sum(opened) as opened
     from insight_ranks where collection_id = ? and words = ? and day between ? and ? group by record_id, rank`,
  );
  const shown = texts.flatMap(({ words }) => rows.all(collectionId, words, range.from, range.to) as Shown[]);
  const model = clickModelOf(shown);
  const grades = gradesFrom(model);
  return {
    looked: model.looked.slice(0, 10).map((share) => Math.round(share * 1_000) / 1_000),
    judgements: texts.flatMap(({ words, text }) => {
      const ofQuery = [...(grades.get(words) ?? [])];
      return ofQuery.some(([, grade]) => grade > 0) ? [{ query: text, grades: Object.fromEntries(ofQuery) }] : [];
    }),
  };
}
