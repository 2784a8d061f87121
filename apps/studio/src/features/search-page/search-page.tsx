'use client';

import type { Card, SearchAnswer } from '@yucca/contract';
import {
  createClient,
  EMPTY_QUERY,
  pageNumbers,
  printAddress,
  withoutChoices,
  withPage,
  withRange,
  withSort,
  withText,
  withToggled,
  type AddressFacet,
  type Query,
} from '@yucca/kit';
import { useAddress, useSearch } from '@yucca/kit/react';
import clsx from 'clsx';
import { useEffect, useRef, useState, type FormEvent, type MouseEvent } from 'react';
import { ThemeSwitch } from '@/features/frame/theme-switch';
import { Button } from '@/ui/button';
import { counted } from '@/ui/format';
import { ResultCard } from './result-card';
import { shownChoices } from './choices';
import { FacetList } from './facets/facet-list';
import { PAGE_SIZE } from './page-size';
import { SearchBox } from './search-box';
import { shownHit } from './shown-hit';

export interface SearchPageProps {
  collection: string;
  title: string;
  card: Card;
  /** The facets offered. */
  facets: AddressFacet[];
  /** The orders offered besides relevance. */
  sorts: { name: string; label: string }[];
  /** A key that can do nothing but search. */
  pageKey: string;
  /** Records there are. */
  all: number;
  query: Query;
  /** The answer to `query`, from the server. */
  answer: SearchAnswer;
}

/**
 * A collection's own search page. The server renders it with its first results; without JavaScript the form and the
 * links ask the server again, with it every keystroke is answered in place.
 */
export function SearchPage({
  collection,
  title,
  card,
  facets,
  sorts,
  pageKey,
  all,
  query: first,
  answer: firstAnswer,
}: SearchPageProps) {
  const [client] = useState(() => createClient({ key: pageKey }));
  const [snapshot, search] = useSearch(() => ({
    client,
    collection,
    request: { facets: facets.length > 0 ? ['*'] : [], size: PAGE_SIZE },
    query: first,
    answer: firstAnswer,
  }));
  const go = useAddress(search, facets);
  const slow = useSlow(snapshot.status === 'loading');
  const { query, status, error } = snapshot;
  const answer = snapshot.answer ?? firstAnswer;
  const answered = snapshot.answered ?? first;
  const form = useRef<HTMLFormElement>(null);
  const here = `/s/${collection}`;
  const hrefOf = (to: Query): string => {
    const text = printAddress(to);
    return text === '' ? here : `${here}?${text}`;
  };
  const follow =
    (to: Query) =>
    (event: MouseEvent): void => {
      if (event.metaKey || event.ctrlKey || event.shiftKey || event.button !== 0) return;
      event.preventDefault();
      go(to, 'push');
      window.scrollTo({ top: 0 });
    };
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    go(withText(query, query.q), 'push');
  };
  const chosen = shownChoices(query, answer);

  return (
    <div className="hosted-page mx-auto max-w-[1180px] px-4 pb-16 sm:px-6">
      <header className="flex items-center justify-between py-4">
        <h1 className="text-[20px] leading-7">
          <a href={here} onClick={follow(EMPTY_QUERY)}>
            {title}
          </a>
        </h1>
        <ThemeSwitch />
      </header>
      <main>
        <form ref={form} method="get" action={here} role="search" onSubmit={submit}>
          <div className="flex gap-2">
            <SearchBox
              collection={collection}
              title={title}
              card={card}
              client={client}
              text={query.q}
              total={answer.total}
              all={all}
              facetLabel={(name) => answer.facets[name]?.label ?? name}
              onText={(text) => go(withText(query, text), 'replace')}
              onAsk={(text) => go(withText(query, text), 'push')}
              onValue={(facet, value) => go(withToggled(withText(query, ''), facet, value), 'push')}
            />
            <Button type="submit" kind="primary" className="h-12 px-5">
              Search
            </Button>
          </div>
          <div className="mt-4 grid gap-x-8 md:grid-cols-[220px_minmax(0,1fr)]">
            {facets.length > 0 && (
              <FacetList
                answer={answer}
                query={query}
                onToggle={(facet, value) => go(withToggled(query, facet, value), 'push')}
                onRange={(facet, range) => go(withRange(query, facet, range), 'push')}
              />
            )}
            <section
              id="results"
              aria-label="Results"
              className={clsx('min-w-0', facets.length === 0 && 'md:col-span-2')}
            >
              <div className="flex min-h-9 flex-wrap items-center gap-x-4 gap-y-2 border-b border-line pb-2">
                <p aria-live="polite">
                  <strong className="font-semibold">{counted(answer.total, 'result')}</strong>
                  {answered.q !== '' && <span className="text-soft"> for “{answered.q}”</span>}
                  <Misread answer={answer} />
                  <LeftOut answer={answer} />
                </p>
                {chosen.length > 0 && (
                  <ul className="flex flex-wrap items-center gap-2" aria-label="Choices">
                    {chosen.map(({ key, label, without }) => (
                      <li key={key}>
                        <a
                          href={hrefOf(without)}
                          onClick={follow(without)}
                          className="flex min-h-6 items-center gap-1 rounded border border-field-line bg-raised px-2 hover:border-madder"
                          aria-label={`Remove ${label}`}
                        >
                          {label} <span aria-hidden="true">×</span>
                        </a>
                      </li>
                    ))}
                    <li>
                      <a href={hrefOf(withoutChoices(query))} onClick={follow(withoutChoices(query))} className="link">
                        Remove all
                      </a>
                    </li>
                  </ul>
                )}
                <span role="status" className="ml-auto text-soft">
                  {slow && 'Searching …'}
                </span>
                {sorts.length > 0 && (
                  <label className="flex items-center gap-2">
                    <span className="text-soft">Sort by</span>
                    <select
                      name="sort"
                      value={query.sort ?? ''}
                      onChange={(event) => go(withSort(query, event.target.value || null), 'push')}
                      className="field h-8 w-auto py-0"
                    >
                      <option value="">Best match</option>
                      {sorts.map(({ name, label }) => (
                        <option key={name} value={name}>
                          {label}
                        </option>
                      ))}
                    </select>
                  </label>
                )}
              </div>
              {status === 'failed' && (
                <p role="alert" className="mt-3 flex flex-wrap items-center gap-3 text-madder">
                  {navigatorOffline()
                    ? 'The line is down. These are the last results.'
                    : `The search did not answer${error?.name === 'ProblemError' ? `: ${error.message}` : '.'}`}
                  <Button onClick={() => void search.refresh()}>Try again</Button>
                </p>
              )}
              {answer.total === 0 ? (
                <NothingFound query={answered} answer={answer} hrefOf={hrefOf} follow={follow} />
              ) : (
                <ol className="grid grid-cols-1 gap-4 pt-4 sm:grid-cols-2 lg:grid-cols-3">
                  {answer.results.map((result, i) => (
                    <li key={result.id}>
                      <ResultCard hit={shownHit(result, card)} eager={i < 6} />
                    </li>
                  ))}
                </ol>
              )}
              <Pages query={query} answer={answer} hrefOf={hrefOf} follow={follow} />
            </section>
          </div>
        </form>
      </main>
    </div>
  );
}

const navigatorOffline = (): boolean => typeof navigator !== 'undefined' && !navigator.onLine;

/** True once something has gone on for longer than a person fails to notice. */
function useSlow(active: boolean): boolean {
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    if (!active) return;
    const timer = setTimeout(() => setSlow(true), 200);
    return () => {
      clearTimeout(timer);
      setSlow(false);
    };
  }, [active]);
  return slow && active;
}

function Misread({ answer }: { answer: SearchAnswer }) {
  const misspelt = answer.understood.words.filter(({ typo, as }) => typo && as.length > 0);
  if (misspelt.length === 0 || answer.total === 0) return null;
  return (
    <span className="text-soft">
      . Nothing is spelt {misspelt.map(({ text }) => `“${text}”`).join(', ')}; showing what comes nearest:{' '}
      {misspelt.map(({ as }) => as.slice(0, 2).join(', ')).join('; ')}
    </span>
  );
}

/** Words that were given up so that something is found. */
function LeftOut({ answer }: { answer: SearchAnswer }) {
  const { dropped } = answer.understood;
  if (dropped.length === 0 || answer.total === 0) return null;
  return (
    <span className="text-soft">
      {' '}
      without {dropped.map((word) => `“${word}”`).join(', ')}: nothing holds every word
    </span>
  );
}

interface Ways {
  query: Query;
  hrefOf: (query: Query) => string;
  follow: (query: Query) => (event: MouseEvent) => void;
}

/** What is left of the words when one is taken away, as far as the data holds all of the rest. */
function shorterQueries({ understood: { words } }: SearchAnswer): string[] {
  if (words.length < 2) return [];
  return words
    .map((_, i) => words.filter((__, j) => j !== i))
    .filter((rest) => rest.every(({ as }) => as.length > 0))
    .map((rest) => rest.map(({ text }) => text).join(' '));
}

function NothingFound({ query, answer, hrefOf, follow }: Ways & { answer: SearchAnswer }) {
  const shorter = shorterQueries(answer);
  const unknown = answer.understood.words.filter(({ as }) => as.length === 0).map(({ text }) => `“${text}”`);
  const hasChoices = Object.keys(query.select).length > 0;
  return (
    <div className="py-10">
      <p className="mb-3 font-head text-[20px] leading-7">
        Nothing found for “{query.q}”{hasChoices && ' with these choices'}.
      </p>
      {unknown.length > 0 && (
        <p className="mb-3 text-soft">Nothing here is spelt anything like {unknown.join(' or ')}.</p>
      )}
      <ul className="flex flex-wrap gap-3">
        {hasChoices && (
          <li>
            <a className="link" href={hrefOf(withoutChoices(query))} onClick={follow(withoutChoices(query))}>
              Remove the choices
            </a>
          </li>
        )}
        {shorter.slice(0, 4).map((text) => (
          <li key={text}>
            <a className="link" href={hrefOf(withText(query, text))} onClick={follow(withText(query, text))}>
              Try “{text}”
            </a>
          </li>
        ))}
        <li>
          <a className="link" href={hrefOf(EMPTY_QUERY)} onClick={follow(EMPTY_QUERY)}>
            See everything
          </a>
        </li>
      </ul>
    </div>
  );
}

function Pages({ query, answer, hrefOf, follow }: Ways & { answer: SearchAnswer }) {
  const pages = Math.min(answer.pages, Math.floor(10_000 / PAGE_SIZE));
  if (pages < 2) return null;
  return (
    <nav aria-label="Pages" className="figures mt-8 flex flex-wrap items-center justify-center gap-1">
      {pageNumbers(answer.page, pages).map((n, i) =>
        n === 0 ? (
          <span key={`gap${i}`} className="px-1 text-soft">
            …
          </span>
        ) : (
          <a
            key={n}
            href={hrefOf(withPage(query, n))}
            onClick={follow(withPage(query, n))}
            aria-current={n === answer.page ? 'page' : undefined}
            aria-label={`Page ${n}`}
            className={clsx(
              'min-w-9 rounded-md px-2 py-1.5 text-center',
              n === answer.page ? 'bg-ink text-paper' : 'hover:bg-sunk',
            )}
          >
            {n}
          </a>
        ),
      )}
    </nav>
  );
}
