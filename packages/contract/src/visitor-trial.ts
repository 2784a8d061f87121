import { count, moment, number, object, oneOf, orNull, saying, share, yesOrNo, type Of } from './schema-of.ts';

/** Live against draft, on the same visitors at the same time. */
export const visitorTrialSchema = object(
  {
    state: saying('A trial that has ended is told of until the next one begins.', oneOf('none', 'running', 'ended')),
    startedAt: moment,
    endedAt: moment,
    ended: saying(
      'Why it ended: it was stopped; another version went live; the index can no longer answer the draft as it was; enough clicks are known.',
      oneOf('stopped', 'published', 'unanswerable', 'full'),
    ),
    liveVersion: saying('The version that the draft is tried against.', number),
    draftChanged: saying('Whether the draft is another now than the one that visitors get.', yesOrNo),
    visits: saying('Visits that opened a result which one side alone put there.', count),
    wins: saying(
      'Queries of a visit in which more results of this side were opened.',
      object({ live: count, draft: count }),
    ),
    ties: saying('Queries of a visit in which as many were opened of each.', count),
    preferred: orNull(oneOf('live', 'draft')),
    confidence: saying(
      'How sure that is. It may be looked at any time: of trials of two equal rankings that are ended at 0.95, 5 of 100 at the most name a winner.',
      share,
    ),
  },
  'startedAt',
  'endedAt',
  'ended',
  'liveVersion',
  'draftChanged',
);
export type VisitorTrial = Of<typeof visitorTrialSchema>;
