import type { InterfacePage, PageShelf, SearchAnswer } from '@yucca/contract';
import { useEffect, useState, type ReactNode } from 'react';
import { shownHit, type ShownHit } from '../../card.ts';
import type { Memory, ViewedRecord } from '../../memory.ts';
import { EMPTY_QUERY, isStart, withText, type Query } from '../../query.ts';
import { addressMap } from '../../address-map.ts';
import { recordLink } from '../../record-link.ts';
import { inOrder } from '../../shelf-requests.ts';
import { isPlainClick } from '../navigation.ts';
import { ResultCard } from '../results/result-card.tsx';
import { useTexts } from '../use-texts.ts';
import type { RecordPlace } from './search-view.tsx';
import { viewedOf } from './viewed.ts';

/** What `Shelves` is given. */
export interface ShelvesProps {
  page: InterfacePage;
  /** What was asked, for the answers that are shown; null = there are none yet. */
  query: Query | null;
  /** The answers of the shelves, in their order. */
  beside: readonly (SearchAnswer | null)[];
  memory: Memory;
  /** The page of a record; undefined = its title leads nowhere. */
  recordHref: (record: RecordPlace) => string | undefined;
  /** Follows a link in place of the browser; null = the browser does. */
  navigate: ((href: string) => void) | null;
  picturesFrom: string;
  /** The results, which stand below the shelves; what was looked at before stands below them. */
  children?: ReactNode;
}

/**
 * Rows of records beside the results: chosen ones before anything is asked for, what other collections have for it
 * after. What a visitor looked at is known on the device alone and comes last, so that nothing moves when it does.
 */
export function Shelves({ children, ...props }: ShelvesProps) {
  const { page, beside, query } = props;
  const shelves = page.shelves ?? [];
  return (
    <>
      {shelves.map((shelf, i) => {
        const answer = beside[i];
        return answer && answer.results.length > 0 && <Shelf key={i} {...props} shelf={shelf} answer={answer} />;
      })}
      {children}
      {query &&
        isStart(query) &&
        shelves.map((shelf, i) => shelf.from === 'viewed' && <ViewedShelf key={i} {...props} shelf={shelf} />)}
    </>
  );
}

interface OneShelf extends Omit<ShelvesProps, 'children'> {
  shelf: PageShelf;
}

/** Records of one collection, with the way to all of them. */
function Shelf({ shelf, answer, ...props }: OneShelf & { answer: SearchAnswer }) {
  const { query, memory, recordHref, navigate, picturesFrom } = props;
  const { say, count } = useTexts();
  const { collection, at, card, from, label } = shelf;
  const left = answer.total - answer.results.length;
  return (
    <Row label={label} {...(from === 'found' && { total: count(answer.total) })}>
      {inOrder(shelf, answer.results).map((result) => {
        const link = shelf.link === undefined ? undefined : recordLink(shelf.link, result.id, result.record);
        const href = recordHref({ collection, id: result.id, at, link });
        const remember = (): void => memory.addViewed(viewedOf(collection, result, card, picturesFrom, link));
        return (
          <ShelfCard
            key={result.id}
            {...{ shelf, href, navigate, remember }}
            hit={shownHit(result, card, picturesFrom)}
          />
        );
      })}
      {from === 'found' && left > 0 && at !== '' && (
        <li data-part="shelf-all">
          <a
            data-part="link"
            href={picturesFrom + addressMap([]).write(withText(EMPTY_QUERY, query?.q ?? ''), { pathname: at })}
          >
            {say('allOf', { total: answer.total, label })}
          </a>
        </li>
      )}
    </Row>
  );
}

/** What this visitor looked at. */
function ViewedShelf({ shelf, memory, recordHref, navigate }: OneShelf) {
  // Known in the browser alone: it is drawn once the page is there.
  const [viewed, setViewed] = useState<readonly ViewedRecord[]>([]);
  useEffect(() => {
    void Promise.resolve().then(() => setViewed(memory.viewed()));
  }, [memory]);
  const here = viewed.filter(({ collection }) => collection === shelf.collection).slice(0, shelf.size);
  if (here.length === 0) return null;
  return (
    <Row label={shelf.label}>
      {here.map((record) => {
        const { collection, id, href: link, text, detail, picture } = record;
        const href = recordHref({ collection, id, at: shelf.at, link });
        const hit: ShownHit = {
          ...{ id, title: { text, ranges: [] }, picture: picture ?? null, second: null },
          ...{ detail: detail ? { text: detail, ranges: [] } : null, text: null, number: null, elsewhere: null },
        };
        return <ShelfCard key={id} {...{ shelf, href, navigate, hit }} remember={() => memory.addViewed(record)} />;
      })}
    </Row>
  );
}

function Row({ label, total, children }: { label: string; total?: string; children: ReactNode }) {
  return (
    <section data-part="shelf" aria-label={label}>
      <p data-part="shelf-title">
        {label} {total !== undefined && <span data-part="figure">{total}</span>}
      </p>
      <ol>{children}</ol>
    </section>
  );
}

interface ShelfCardProps extends Pick<OneShelf, 'shelf' | 'navigate'> {
  hit: ShownHit;
  href: string | undefined;
  remember: () => void;
}

/** A card of a shelf: without the long text, which is for who looks closer. */
function ShelfCard({ shelf, hit, href, navigate, remember }: ShelfCardProps) {
  return (
    <li>
      <ResultCard
        hit={{ ...hit, text: null, elsewhere: null }}
        href={href}
        currency={shelf.format}
        onOpen={(event) => {
          remember();
          if (!navigate || !isPlainClick(event)) return;
          event.preventDefault();
          navigate(href!);
        }}
      />
    </li>
  );
}
