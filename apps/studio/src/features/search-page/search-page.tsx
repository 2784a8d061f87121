'use client';

import type { InterfacePage, SearchAnswer } from '@yucca/contract';
import { createClient, createInsights, type Query } from '@yucca/kit';
import { LINES, overLine, RequestLog, type Line } from '@yucca/kit/lens';
import { SearchView } from '@yucca/kit/react';
import dynamic from 'next/dynamic';
import { useState } from 'react';

const Lens = dynamic(() => import('./lens'), { ssr: false });

export interface SearchPageProps {
  page: InterfacePage;
  /** A key that can do nothing but search. */
  pageKey: string;
  query: Query;
  /** The answer to `query`, from the server. */
  answer: SearchAnswer;
  /** With the panel that shows what the page asks for. */
  lens: boolean;
}

/** A hosted search page: the kit's own, with nothing added that a page elsewhere could not have. */
export function SearchPage({ page, pageKey, query, answer, lens }: SearchPageProps) {
  const [line, setLine] = useState<Line>(LINES[0]!);
  const [insights] = useState(() => createInsights({ key: pageKey }));
  const [{ client, log, slowTo }] = useState(() => prepare(pageKey, lens));
  return (
    <>
      <SearchView page={page} client={client} query={query} answer={answer} insights={insights} />
      {lens && (
        <Lens
          log={log}
          line={line}
          onLine={(next) => {
            slowTo(next);
            setLine(next);
          }}
          page={page}
          query={query}
          pageKey={pageKey}
        />
      )}
    </>
  );
}

/** A client; with the lens, one whose line can be slowed down and whose requests are listened to. */
function prepare(pageKey: string, lens: boolean) {
  const log = new RequestLog();
  let line = LINES[0]!;
  const listening = {
    fetch: overLine(
      (...args) => globalThis.fetch(...args),
      () => line,
    ),
    onRequest: log.hear,
  };
  const slowTo = (next: Line): void => {
    line = next;
  };
  return { log, slowTo, client: createClient({ key: pageKey, ...(lens ? listening : {}) }) };
}
