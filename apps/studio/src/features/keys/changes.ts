import type { AuditEntry } from '@yucca/contract';

/**
 * What a change is called, by its method and path below the collection; the first that fits. A new one is a line here.
 */
const CHANGES: readonly [method: string, path: RegExp, words: (entry: AuditEntry) => string][] = [
  ['POST', /^\/collections$/, ({ detail }) => `Made the collection ${detail?.name ?? ''}`.trim()],
  ['PATCH', /^\/collections\/[^/]+$/, () => 'Changed the collection’s title'],
  ['DELETE', /^\/collections\/[^/]+$/, () => 'Deleted the collection'],
  ['POST', /\/records$/, ({ detail }) => `Loaded ${detail?.done ?? 'some'} records`],
  ['POST', /\/records\/delete$/, ({ detail }) => `Deleted ${detail?.deleted ?? 'some'} records`],
  ['PUT', /\/records?(\/|$)/, ({ detail }) => `Wrote the record ${detail?.key ?? ''}`.trim()],
  ['PATCH', /\/records?(\/|$)/, ({ detail }) => `Changed the record ${detail?.key ?? ''}`.trim()],
  ['DELETE', /\/records?(\/|$)/, ({ detail }) => `Deleted the record ${detail?.key ?? ''}`.trim()],
  [
    'POST',
    /\/publish$/,
    ({ detail }) =>
      detail?.from === detail?.to
        ? 'Published nothing new'
        : `Published version ${detail?.to} in place of ${detail?.from}`,
  ],
  ['POST', /\/handover$/, ({ detail }) => `Took a search page away as ${detail?.target ?? 'files'}`],
  ['POST', /\/restore$/, ({ detail }) => `Made version ${detail?.from} the draft`],
  ['DELETE', /\/draft$/, () => 'Threw the draft away'],
  ['PUT', /\/draft$/, () => 'Saved the draft'],
  ['PATCH', /\/draft$/, () => 'Changed the draft'],
  ['PUT', /\/settings$/, () => 'Took settings over'],
  ['PUT', /\/field-rules$/, () => 'Changed the field rules'],
  ['PUT', /\/judgements$/, () => 'Replaced the judgements'],
  ['PATCH', /\/judgements$/, () => 'Changed judgements'],
  ['POST', /\/insights\/searches$/, ({ detail }) => `Brought ${detail?.searches ?? 'some'} searches of visitors`],
  ['DELETE', /\/insights$/, ({ detail }) => `Erased ${detail?.erased ?? 'some'} searches of visitors`],
  ['POST', /\/visitor-trial$/, () => 'Began a trial of the draft with visitors'],
  ['DELETE', /\/visitor-trial$/, () => 'Ended the trial of the draft'],
  ['POST', /^\/feeds$/, ({ detail }) => `Made the feed ${detail?.name ?? ''}`.trim()],
  ['PATCH', /^\/feeds\//, () => 'Changed a feed'],
  ['DELETE', /^\/feeds\//, ({ detail }) => `Ended the feed ${detail?.name ?? ''}`.trim()],
  [
    'POST',
    /^\/feeds\/[^/]+\/repair$/,
    ({ detail }) => `Repaired a collection from its feed: what is ${detail?.what ?? 'missing, different'}`,
  ],
  ['POST', /^\/feeds\/[^/]+\/run$/, ({ detail }) => `Ran a feed (run ${detail?.run ?? ''})`],
  ['POST', /^\/feeds\/[^/]+\/triggers$/, () => 'Made the change log of a feed in its source'],
  ['POST', /^\/feeds\/[^/]+\/pause$/, () => 'Paused a feed'],
  ['POST', /^\/feeds\/[^/]+\/resume$/, () => 'Resumed a feed'],
  ['POST', /^\/feeds\/[^/]+\/secret$/, () => 'Made another secret for a feed'],
  [
    'POST',
    /^\/feeds\/[^/]+\/dead\/replay$/,
    ({ detail }) => `Tried dead events again: ${detail?.applied ?? 0} applied`,
  ],
  ['POST', /^\/feeds\/[^/]+\/test$/, ({ detail }) => `Sent a test event for ${detail?.key ?? 'a record'}`],
  ['POST', /^\/keys$/, ({ detail }) => `Made the key ${detail?.label ?? ''}`.trim()],
  ['DELETE', /^\/keys\//, () => 'Deleted a key'],
  ['POST', /^\/interfaces$/, ({ detail }) => `Made the search page ${detail?.slug ?? ''}`.trim()],
  ['POST', /^\/interfaces\/[^/]+\/logo$/, () => 'Sent a logo for a search page'],
  ['PUT', /^\/interfaces\//, () => 'Changed a search page'],
  ['DELETE', /^\/interfaces\//, () => 'Deleted a search page'],
  ['DELETE', /^\/tasks\//, () => 'Cancelled a task'],
  ['POST', /^\/backups$/, ({ detail }) => `Began the backup ${detail?.backup ?? ''}`.trim()],
  ['POST', /^\/ready\/check$/, () => 'Had the database checked'],
];

/** What somebody did, in a few words. */
export function wordsOf(entry: AuditEntry): string {
  const known = CHANGES.find(([method, path]) => method === entry.method && path.test(entry.path));
  return known ? known[2](entry) : `${entry.method} ${entry.path}`;
}
