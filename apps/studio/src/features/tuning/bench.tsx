'use client';

import type { Card, SearchAnswer, SearchResult } from '@yucca/contract';
import { rankBiasedOverlap } from '@yucca/engine/compare';
import { EMPTY_QUERY, withText, type SearchSnapshot, type YuccaClient } from '@yucca/kit';
import { useSearch } from '@yucca/kit/react';
import clsx from 'clsx';
import { Popover } from 'radix-ui';
import { useEffect } from 'react';
import { HitLine } from '@/features/probe/hit-line';
import { reportProbe } from '@/features/probe/last-probe';
import { shownHit } from '@yucca/kit';
import { counted, milliseconds } from '@/ui/format';
import { Explanation } from './explanation';
import { movedWords, movements, type Movement } from './movement';

const ROW_PX = 44;
const GAP_PX = 96;
/** Rows shown, and results asked for: what comes from further down, or goes there, is known by its place. */
const SHOWN = 20;
const SIZE = 60;

export interface BenchProps {
  client: YuccaClient;
  collection: string;
  card: Card;
  text: string;
  /** Grows with every change of the records or the live tuning. */
  generation: number;
  /** Grows with every change of the draft. */
  saves: number;
}

/** The results of one query, live and draft, side by side and joined by lines that show what moved. */
export function Bench({ client, collection, card, text, generation, saves }: BenchProps) {
  const live = useVersion({ client, collection, text, version: 'live', state: generation });
  const draft = useVersion({ client, collection, text, version: 'draft', state: generation + saves });
  useEffect(() => {
    if (draft.answer) reportProbe({ engineMs: draft.answer.timing.engineMs });
  }, [draft.answer]);
  const [before, after] = [live.answer?.results ?? [], draft.answer?.results ?? []];
  const [liveRows, draftRows] = [before.slice(0, SHOWN), after.slice(0, SHOWN)];
  // Lines are drawn between answers to one and the same text only.
  const together = live.answered?.q === draft.answered?.q;
  const moved = together ? movements(ids(before), ids(after)) : [];
  const problem = live.error ?? draft.error;
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="grid shrink-0 grid-cols-[1fr_96px_1fr] items-end border-b border-line bg-sunk px-4 py-2">
        <Head name="◆ live" tone="text-agave" answer={live.answer} />
        <Likeness live={before} draft={after} />
        <Head name="◇ draft" tone="text-clay" answer={draft.answer} />
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
        aria-label="Results, live and draft"
      >
        <div className="grid grid-cols-[1fr_96px_1fr]">
          <Column results={liveRows} card={card} label="Live" moved={moved} />
          <Lines moved={moved} rows={Math.max(liveRows.length, draftRows.length)} />
          <Column results={draftRows} card={card} label="Draft" moved={moved} signs />
        </div>
        {live.answer?.total === 0 && draft.answer?.total === 0 && (
          <p className="py-6 text-soft">
            Neither finds anything for “{text}”. Looser typos, a synonym or fewer required words may.
          </p>
        )}
      </div>
    </div>
  );
}

const ids = (results: readonly SearchResult[]): string[] => results.map(({ id }) => id);

function useVersion({
  client,
  collection,
  text,
  version,
  state,
}: {
  client: YuccaClient;
  collection: string;
  text: string;
  version: 'live' | 'draft';
  state: number;
}): SearchSnapshot {
  const [snapshot, search] = useSearch(() => ({
    client,
    collection,
    request: { size: SIZE, explain: true, version, record: false },
    query: withText(EMPTY_QUERY, text),
  }));
  useEffect(() => void search.refresh(), [search, state]);
  useEffect(() => search.ask(withText(search.snapshot().query, text)), [search, text]);
  return snapshot;
}

function Head({ name, tone, answer }: { name: string; tone: string; answer: SearchAnswer | null }) {
  const misspelt = (answer?.understood.words ?? []).filter(({ typo, as }) => typo && as.length > 0);
  return (
    <div className="min-w-0">
      <h2 className={clsx('text-[15px] leading-5', tone)}>{name}</h2>
      <p className="figures truncate text-xs text-soft" aria-live="polite">
        {answer ? `${counted(answer.total, 'result')} in ${milliseconds(answer.timing.engineMs)}` : '…'}
        {misspelt.length > 0 &&
          ` · ${misspelt.map(({ text, as }) => `${text} read as ${as.slice(0, 3).join(', ')}`).join('; ')}`}
      </p>
    </div>
  );
}

/** How alike both rankings are, the first places counting most. */
function Likeness({ live, draft }: { live: SearchResult[]; draft: SearchResult[] }) {
  if (live.length + draft.length === 0) return <span />;
  const alike = Math.round(rankBiasedOverlap(ids(live), ids(draft)) * 100);
  return (
    <p className="figures text-center text-xs text-soft" title="Rank-biased overlap: the first places count most">
      {alike === 100 ? 'the same' : `${alike}% alike`}
    </p>
  );
}

function Column({
  results,
  card,
  label,
  moved,
  signs = false,
}: {
  results: SearchResult[];
  card: Card;
  label: string;
  moved: Movement[];
  signs?: boolean;
}) {
  const byId = new Map(moved.map((one) => [one.id, one]));
  return (
    <ol aria-label={label} className="min-w-0">
      {results.map((result, row) => {
        const movement = byId.get(result.id);
        return (
          <li
            key={result.id}
            style={{ height: ROW_PX }}
            className={clsx('border-b border-line', !signs && isLeaving(movement) && 'text-soft [&_img]:opacity-50')}
          >
            <Row result={result} card={card} row={row} others={results} movement={signs ? movement : undefined} />
          </li>
        );
      })}
    </ol>
  );
}

/** Whether a live result is not on screen any more under the draft. */
const isLeaving = (movement: Movement | undefined): boolean =>
  movement !== undefined && (movement.draft === null || movement.draft >= SHOWN);

const TONES: Record<Movement['kind'], string> = {
  rises: 'text-agave',
  falls: 'text-clay',
  enters: 'text-agave',
  leaves: 'text-soft',
  same: 'text-soft',
};

function Row({
  result,
  card,
  row,
  others,
  movement,
}: {
  result: SearchResult;
  card: Card;
  row: number;
  /** All results of its column. */
  others: readonly SearchResult[];
  movement: Movement | undefined;
}) {
  const moved = movement && movedWords(movement);
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button
          type="button"
          title="Why is it here?"
          className="flex h-full w-full min-w-0 items-center gap-2 text-left text-[13px] leading-4 hover:bg-sunk"
        >
          <span className="figures w-5 shrink-0 text-right text-xs text-soft">{row + 1}</span>
          <HitLine hit={shownHit(result, card)} size={32} short />
          {result.pinned && <span className="shrink-0 text-xs text-plum">pinned</span>}
          {moved && movement.kind !== 'same' && (
            <span className={clsx('figures shrink-0 text-xs', TONES[movement.kind])}>
              <span aria-hidden="true">{moved.sign}</span>
              <span className="sr-only">{moved.words}</span>
            </span>
          )}
          {result.why && (
            <span className="figures w-9 shrink-0 text-right text-xs text-soft">{result.why.score.toFixed(1)}</span>
          )}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          collisionPadding={12}
          aria-label="Why it is here"
          className="z-20 w-[380px] rounded-md border border-line bg-paper p-4"
        >
          {result.why ? (
            <Explanation result={result} why={result.why} row={row} others={others} card={card} />
          ) : (
            <p>No explanation came with it.</p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The lines from where each result stood to where it stands: solid rising, dashed falling, dotted for new ones. */
function Lines({ moved, rows }: { moved: Movement[]; rows: number }) {
  // What stands further down than the rows on screen comes in, or goes out, at the lower edge.
  const y = (row: number): number => (row < SHOWN ? row * ROW_PX + ROW_PX / 2 : rows * ROW_PX);
  return (
    <svg width={GAP_PX} height={rows * ROW_PX} aria-hidden="true" data-part="movement">
      {moved.map(({ id, live, draft, kind }) => {
        if (draft === null || (draft >= SHOWN && (live ?? SHOWN) >= SHOWN)) return null;
        if (live === null)
          return (
            <line
              key={id}
              data-kind={kind}
              x1={GAP_PX * 0.6}
              y1={y(draft)}
              x2={GAP_PX - 6}
              y2={y(draft)}
              stroke="var(--agave)"
              strokeWidth={1.5}
              strokeDasharray="1.5 4"
              strokeLinecap="round"
            />
          );
        const path = `M6 ${y(live)} C ${GAP_PX / 2} ${y(live)}, ${GAP_PX / 2} ${y(draft)}, ${GAP_PX - 6} ${y(draft)}`;
        const stroke = { same: 'var(--line)', rises: 'var(--agave)', falls: 'var(--clay)', enters: '', leaves: '' }[
          kind
        ];
        return (
          <path
            key={id}
            data-kind={kind}
            d={path}
            fill="none"
            stroke={stroke}
            strokeWidth={1.5}
            {...(kind === 'falls' && { strokeDasharray: '6 4' })}
          />
        );
      })}
    </svg>
  );
}
