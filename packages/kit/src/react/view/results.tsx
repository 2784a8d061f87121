import type { InterfacePage, SearchAnswer, SearchResult } from '@yucca/contract';
import { memo, useMemo, useRef, useState, type RefObject } from 'react';
import { shownHit } from '../../card.ts';
import { cardFormatOf } from '../../facet-labels.ts';
import type { Insights } from '../../insights.ts';
import type { Memory } from '../../memory.ts';
import type { Query } from '../../query.ts';
import { recordLink } from '../../record-link.ts';
import { ResultMap } from '../map/result-map.tsx';
import { isPlainClick, type Lead } from '../navigation.ts';
import { ResultCard } from '../results/result-card.tsx';
import { Badges } from '../results/badges.tsx';
import { ResultTable } from '../results/result-table.tsx';
import { usePainted } from '../use-painted.ts';
import { useViews } from '../use-views.ts';
import type { SearchViewProps } from './search-view.tsx';
import { viewedOf } from './viewed.ts';

interface ResultsProps {
  page: InterfacePage;
  answer: SearchAnswer;
  near: Query['near'];
  recordHref: NonNullable<SearchViewProps['recordHref']>;
  memory: Memory;
  insights: Insights | null;
  renderResult: SearchViewProps['renderResult'];
  navigate: SearchViewProps['navigate'] | null;
  picturesFrom: string;
}

const NOBODY_TOLD: Pick<Insights, 'active' | 'click' | 'view'> = { active: false, click: () => {}, view: () => {} };

/** Results drawn at once with an answer, about as many as are in sight; the rest follows when those are on screen. */
const AT_ONCE = 9;

/** The results, with a map beside them where they have places; or a table of them. */
export const Results = memo(function Results(props: ResultsProps) {
  const { page, answer, near, recordHref, memory, insights, renderResult, navigate, picturesFrom } = props;
  const told = insights ?? NOBODY_TOLD;
  const list = useRef<HTMLElement>(null);
  const later = usePainted(answer);
  const rows = useMemo(
    () => [
      ...answer.results.slice(0, AT_ONCE).map((result) => ({ result, of: answer })),
      ...later.results.slice(AT_ONCE, answer.results.length).map((result) => ({ result, of: later })),
    ],
    [answer, later],
  );
  const ids = useMemo(() => rows.map(({ result }) => result.id), [rows]);
  // Grown pages begin with the first result, numbered ones further down.
  const firstPlace = answer.results.length > answer.size ? 0 : (answer.page - 1) * answer.size;
  useViews(list, ids, answer.queryId, told, firstPlace);
  const [pointed, setPointed] = useState<string | null>(null);
  const { geo } = page;
  const withMap = page.layout === 'places' && geo !== null;
  if (page.layout === 'table')
    return (
      <ResultTable
        page={page}
        results={answer.results}
        rows={list}
        picturesFrom={picturesFrom}
        leadOf={(result, i) => leadOf({ ...props, told }, result, answer.queryId, firstPlace + i + 1)}
      />
    );
  return (
    <div data-part="found">
      <ol ref={list as RefObject<HTMLOListElement | null>} data-part="list">
        {rows.map(({ result, of }, i) => (
          <ResultRow
            key={`${i < AT_ONCE ? 'now' : 'later'}/${result.id}`}
            {...{ result, page, recordHref, memory, told, renderResult, navigate, picturesFrom, i }}
            queryId={of.queryId}
            place={firstPlace + i + 1}
            pointed={result.id === pointed}
            onPoint={withMap ? setPointed : null}
          />
        ))}
      </ol>
      {withMap && (
        <ResultMap
          results={answer.results}
          geo={geo}
          near={near}
          pointed={pointed}
          onPoint={setPointed}
          nameOf={(result) => shownHit(result, page.card).title.text}
        />
      )}
    </div>
  );
});

interface ResultRowProps extends Pick<
  ResultsProps,
  'page' | 'recordHref' | 'memory' | 'renderResult' | 'navigate' | 'picturesFrom'
> {
  result: SearchResult;
  told: typeof NOBODY_TOLD;
  queryId: string;
  /** Its row on the page, from 0. */
  i: number;
  /** Its place among all results, from 1. */
  place: number;
  pointed: boolean;
  /** With a map, which points at it too. */
  onPoint: ((id: string | null) => void) | null;
}

type Leads = Pick<ResultRowProps, 'page' | 'recordHref' | 'memory' | 'told' | 'navigate' | 'picturesFrom'>;

/** Where a result leads, and what is remembered and told when somebody goes there. */
function leadOf(leads: Leads, result: SearchResult, queryId: string, place: number): Lead {
  const { page, recordHref, memory, told, navigate, picturesFrom } = leads;
  const { collection, at } = page;
  const link = page.link === undefined ? undefined : recordLink(page.link, result.id, result.record);
  const href = recordHref({ collection, id: result.id, at, link });
  return {
    href,
    onOpen: (event) => {
      memory.addViewed(viewedOf(collection, result, page.card, picturesFrom, link));
      told.click(queryId, result.id, place);
      if (!navigate || !isPlainClick(event)) return;
      event.preventDefault();
      navigate(href!);
    },
  };
}

const ResultRow = memo(function ResultRow(props: ResultRowProps) {
  const { result, page, queryId, i, place, pointed, onPoint, renderResult } = props;
  const { href, onOpen } = leadOf(props, result, queryId, place);
  const card = (
    <ResultCard
      hit={shownHit(result, page.card, props.picturesFrom)}
      href={href}
      onOpen={onOpen}
      currency={cardFormatOf(page)}
      badges={<Badges page={page} result={result} />}
      distanceM={result.distanceM}
      eager={i < (page.columns ?? 3)}
    />
  );
  return (
    <li
      data-pointed={pointed}
      {...(onPoint && {
        'data-number': i + 1,
        onPointerEnter: () => onPoint(result.id),
        onPointerLeave: () => onPoint(null),
      })}
    >
      {renderResult ? renderResult(result, card, place) : card}
    </li>
  );
});
