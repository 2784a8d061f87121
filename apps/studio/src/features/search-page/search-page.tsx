'use client';

import type { InterfacePage, SearchAnswer } from '@yucca/contract';
import { addressMap, createClient, type AddressMap, type Query } from '@yucca/kit';
import { createInsights } from '@yucca/kit/insights';
import { LINES, overLine, RequestLog, type Line } from '@yucca/kit/lens';
import { SearchView, type SearchViewProps } from '@yucca/kit/react';
import { textsOf } from '@yucca/kit/texts';
import dynamic from 'next/dynamic';
import { useMemo, useState, type ReactNode } from 'react';
import { inLanguage, languageParam } from './in-language';
import { PageFrame } from './page-frame';
import { queryOf, usePreview } from './preview/use-preview';

const Lens = dynamic(() => import('./lens'), { ssr: false });

export interface SearchPageProps {
  page: InterfacePage;
  /** A key that can do nothing but search. */
  pageKey: string;
  query: Query;
  /** The answer to `query`, from the server. */
  answer: SearchAnswer;
  /** And of the shelves of the page. */
  beside: readonly (SearchAnswer | null)[];
  /** With the panel that shows what the page asks for. */
  lens: boolean;
  /** It is looked at by whoever designs it: changes come from there, and nobody is told what is done on it. */
  preview: boolean;
  /** Structured data. */
  children: ReactNode;
}

/** A hosted search page: the kit's own, with nothing added that a page elsewhere could not have. */
export function SearchPage(props: SearchPageProps) {
  const { page: first, pageKey, query, answer, beside, lens, preview, children } = props;
  const [line, setLine] = useState<Line>(LINES[0]!);
  const [insights] = useState(() => createInsights({ key: pageKey }));
  const [{ client, log, slowTo }] = useState(() => prepare(pageKey, lens));
  const { page, asked } = usePreview(first, preview);
  // What a running page cannot take over makes a new one, which goes on where the address is.
  const made = `${page.collection} ${page.paging} ${page.geo}`;
  const [firstMade] = useState(made);
  const start = useMemo(() => (made === firstMade ? query : queryOf(page)), [made]); // eslint-disable-line react-hooks/exhaustive-deps -- only when it is made anew
  const inItsLanguage = useMemo(() => languageProps(page), [page]);
  return (
    <PageFrame page={page} address={page.at}>
      <h1 className="sr-only">{textsOf(page.locale, page.texts).say('searchIn', { title: page.title })}</h1>
      <SearchView
        key={made}
        page={page}
        client={client}
        query={asked ?? start}
        {...(made === firstMade && asked === null && { answer, beside })}
        {...(!preview && { insights })}
        {...inItsLanguage}
      />
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
      {children}
    </PageFrame>
  );
}

/** What keeps a page in the language that its address says: in all of its links, where it is not the first one. */
function languageProps(page: InterfacePage): Pick<SearchViewProps, 'map' | 'recordHref'> {
  const said = languageParam(page);
  if (said === null) return {};
  const map = addressMap(page.facets);
  const write: AddressMap['write'] = (query, at, kept = []) =>
    map.write(query, at, kept.some((one) => one.startsWith('lang=')) ? kept : [said, ...kept]);
  return {
    map: { ...map, write },
    recordHref: ({ id, at, link }) => link ?? inLanguage(`${at}/r/${encodeURIComponent(id)}`, page),
  };
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
