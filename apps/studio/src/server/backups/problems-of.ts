import type { Db } from '../db/open';

/** Problems that are told; a database that is broken through and through has thousands. */
const MOST = 20;

/**
 * What is wrong with a database, in SQLite's words (`PRAGMA integrity_check`) and in ours; nothing when all is well.
 */
export function problemsOf({ $client }: Db): string[] {
  try {
    const said = $client.pragma(`integrity_check(${MOST})`) as { integrity_check: string }[];
    const problems = said.map(({ integrity_check: text }) => text).filter((text) => text !== 'ok');
    return problems.length > 0 ? problems : countsThatDiffer($client);
  } catch (error) {
    // Some damage is met as an error of the very reading.
    if ((error as { code?: string }).code?.startsWith('SQLITE_CORRUPT')) return [(error as Error).message];
    throw error;
  }
}

/** Collections whose count of records is not the number of their records. */
function countsThatDiffer($client: Db['$client']): string[] {
  const rows = $client
    .prepare(
      `select name, records as told, (select count(*) from records r where r.collection_id = c.id) as found
       from collections c where name is not null`,
    )
    .all() as { name: string; told: number; found: number }[];
  return rows
    .filter(({ told, found }) => told !== found)
    .map(({ name, told, found }) => `collection ${name} counts ${told} records and has ${found}`);
}
