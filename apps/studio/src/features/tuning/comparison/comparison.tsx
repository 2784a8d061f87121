'use client';

import type { Card, SearchAnswer, SearchResult } from '@yucca/contract';
import { rankBiasedOverlap } from '@yucca/engine/compare';
import { EMPTY_QUERY, withText, type SearchSnapshot, type YuccaClient } from '@yucca/kit';
import { useSearch } from '@yucca/kit/react';
import { memo, useEffect, useMemo, useState } from 'react';
import { reportProbe } from '@/features/probe/last-probe';
import { counted, milliseconds } from '@/ui/format';
import { useDraft, useDraftStore } from '../draft';
import { withPin } from '../placements/placements';
import { WhereIs } from '../where/where-is';
import { Column } from './column';
import { FacetsOfBoth } from './facets-of-both';
import { Lines } from './lines';
import { movements } from './movement';
import { useOlder, VersionChoice, versionName, type Version } from './versions';

/** Rows shown, and results asked for: what comes from further down, or goes there, is known by its place. */
const SHOWN = 20;
const SIZE = 40;

export interface ComparisonProps {
  client: YuccaClient;
  collection: string;
  /** The field that identifies a record. */
  keyField: string;
  card: Card;
  text: string;
  /** Grows with every change of the records or the live tuning. */
  generation: number;
  /** What answers on the left and on the right. */
  left: Version;
  right: Version;
  onLeft: (version: Version) => void;
  onRight: (version: Version) => void;
  /** The day whose placements are shown (ISO 8601); empty = today. */
  on: string;
  /** The key of a record that is looked for; empty = none. */
  sought: string;
  onSought: (id: string) => void;
}

/** The results of one query under two versions, side by side and joined by lines that show what moved. */
export function Comparison(props: ComparisonProps) {
  const { client, collection, card, text, generation, left, right, on, sought } = props;
  const [{ saves }, store] = useDraft();
  const older = useOlder(collection, generation);
  const stateOf = (version: Version): string => `${generation}/${version === 'draft' ? saves : ''}`;
  const [withFacets, setWithFacets] = useState(false);
  const asked = { client, collection, card, text, on, withFacets, generation };
  const before = useVersion({ ...asked, version: left });
  const after = useVersion({ ...asked, version: right });
  useEffect(() => {
    if (after.answer) reportProbe({ engineMs: after.answer.timing.engineMs });
  }, [after.answer]);
  const [old, now] = [before.answer?.results ?? NONE, after.answer?.results ?? NONE];
  const leftRows = useMemo(() => old.slice(0, SHOWN), [old]);
  const rightRows = useMemo(() => now.slice(0, SHOWN), [now]);
  // Lines are drawn between answers to one and the same text only.
  const together = before.answered?.q === after.answered?.q;
  const moved = useMemo(() => (together ? movements(ids(old), ids(now)) : []), [together, old, now]);
  const problem = before.error ?? after.error;
  const isDraft = right === 'draft';
  const names = useMemo((): [string, string] => [inSentence(left), inSentence(right)], [left, right]);
  const hand = useMemo(
    () =>
      isDraft
        ? {
            text,
            collection,
            onPin: (id: string, place: number) => store.change((document) => withPin(document, text, id, place)),
          }
        : undefined,
    [isDraft, text, collection, store],
  );
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <WhereIs
        client={client}
        keyField={props.keyField}
        collection={collection}
        card={card}
        text={text}
        on={on}
        left={left}
        right={right}
        state={`${stateOf(left)} ${stateOf(right)}`}
        answers={[before.answer, after.answer]}
        sought={sought}
        onSought={props.onSought}
      />
      <div className="grid shrink-0 grid-cols-[1fr_96px_1fr] items-end border-b border-line bg-sunk px-4 py-2">
        <Head answer={before.answer}>
          <VersionChoice label="Left column" value={left} older={older} onChange={props.onLeft} />
        </Head>
        <Likeness live={old} draft={now} />
        <Head answer={after.answer}>
          <VersionChoice label="Right column" value={right} older={older} onChange={props.onRight} />
        </Head>
      </div>
      {problem && (
        <p role="alert" className="px-4 py-2 text-madder">
          {problem.message}
        </p>
      )}
      <div
        className="relative min-h-0 flex-1 overflow-y-auto px-4"
        tabIndex={0}
        role="region"
        aria-label={`Results, ${versionName(left)} and ${versionName(right)}`}
      >
        <div className="grid grid-cols-[1fr_96px_1fr]">
          <Column results={leftRows} card={card} label={titled(left)} moved={moved} shown={SHOWN} sought={sought} />
          <Lines moved={moved} rows={Math.max(leftRows.length, rightRows.length)} shown={SHOWN} />
          <Column
            results={rightRows}
            card={card}
            label={titled(right)}
            moved={moved}
            shown={SHOWN}
            sought={sought}
            versions={names}
            hand={hand}
          />
        </div>
        {before.answer?.total === 0 && after.answer?.total === 0 && (
          <p className="py-6 text-soft">
            Neither finds anything for “{text}”. Say above which record should come up, and see what keeps it out.
          </p>
        )}
      </div>
      <FacetsOfBoth before={before.answer} after={after.answer} open={withFacets} onOpen={setWithFacets} />
    </div>
  );
}

const NONE: SearchResult[] = [];

const ids = (results: readonly SearchResult[]): string[] => results.map(({ id }) => id);

/** A version as it is spoken of. */
const inSentence = (version: Version): string => (version === 'draft' ? 'the draft' : versionName(version));

const titled = (version: Version): string => {
  const name = versionName(version);
  return name.charAt(0).toUpperCase() + name.slice(1);
};

function useVersion({
  client,
  collection,
  card,
  text,
  version,
  on,
  withFacets,
  generation,
}: {
  client: YuccaClient;
  collection: string;
  card: Card;
  text: string;
  version: Version;
  on: string;
  withFacets: boolean;
  generation: number;
}): SearchSnapshot {
  const store = useDraftStore();
  const standing = useMemo(
    () => ({
      size: SIZE,
      // What a row shows, and no more: the answer is half as long.
      fields: [card.title, card.detail, card.picture].filter((field) => field !== null),
      explain: true,
      version,
      record: false,
      facets: withFacets ? ['*'] : [],
      ...(on !== '' && { on }),
    }),
    [card, version, withFacets, on],
  );
  const [snapshot, search] = useSearch(() => ({
    client,
    collection,
    request: standing,
    query: withText(EMPTY_QUERY, text),
  }));
  // Asked for what is on screen now, and again as soon as the draft is saved: not when the screen has been drawn for
  // it.
  useEffect(() => {
    const ask = (): void => search.change(standing, withText(search.snapshot().query, text));
    ask();
    let { saves } = store.snapshot();
    return store.subscribe(() => {
      const now = store.snapshot().saves;
      if (now !== saves && version === 'draft') ask();
      saves = now;
    });
  }, [store, search, standing, generation, text, version]);
  return snapshot;
}

function Head({ children, answer }: { children: React.ReactNode; answer: SearchAnswer | null }) {
  const { words = [], placements = [], notice = null, redirect = null } = answer?.understood ?? {};
  const misspelt = words.filter(({ typo, as }) => typo && as.length > 0);
  return (
    <div className="min-w-0">
      <h2 className="leading-5">{children}</h2>
      <p className="figures truncate text-xs text-soft" aria-live="polite">
        {answer ? `${counted(answer.total, 'result')} in ${milliseconds(answer.timing.engineMs)}` : '…'}
        {misspelt.length > 0 &&
          ` · ${misspelt.map(({ text, as }) => `${text} read as ${as.slice(0, 3).join(', ')}`).join('; ')}`}
        {placements.length > 0 && <span className="text-plum"> · placed by {placements.join(', ')}</span>}
      </p>
      {(notice ?? redirect) !== null && (
        <p className="truncate text-xs text-plum">
          {notice !== null && `Says: ${notice}`}
          {notice !== null && redirect !== null && ' · '}
          {redirect !== null && `Sends to ${redirect}`}
        </p>
      )}
    </div>
  );
}

/** How alike both rankings are, the first places counting most. */
const Likeness = memo(function Likeness({ live, draft }: { live: SearchResult[]; draft: SearchResult[] }) {
  if (live.length + draft.length === 0) return <span />;
  const alike = Math.round(rankBiasedOverlap(ids(live), ids(draft)) * 100);
  return (
    <p className="figures text-center text-xs text-soft" title="Rank-biased overlap: the first ranks count most">
      {alike === 100 ? 'the same' : `${alike}% alike`}
    </p>
  );
});
