'use client';

import type { InterfacePage, SearchAnswer } from '@yucca/contract';
import { createClient, type Query } from '@yucca/kit';
import { SearchView } from '@yucca/kit/react';
import { useState } from 'react';

export interface SearchPageProps {
  page: InterfacePage;
  /** A key that can do nothing but search. */
  pageKey: string;
  query: Query;
  /** The answer to `query`, from the server. */
  answer: SearchAnswer;
}

/** A hosted search page: the kit's own, with nothing added that a page elsewhere could not have. */
export function SearchPage({ page, pageKey, query, answer }: SearchPageProps) {
  const [client] = useState(() => createClient({ key: pageKey }));
  return <SearchView page={page} client={client} query={query} answer={answer} />;
}
