'use client';

import { SearchView, type SearchViewProps } from '@yucca/kit/react';
import { useRouter } from 'next/navigation';
import { client } from './client';

export function Search(given: Pick<SearchViewProps, 'page' | 'query' | 'answer'>) {
  const router = useRouter();
  return (
    <SearchView
      {...given}
      client={client}
      here="/"
      recordHref={({ id }) => `/plants/${encodeURIComponent(id)}`}
      navigate={(href) => router.push(href)}
      picturesFrom={process.env.NEXT_PUBLIC_YUCCA_SERVER ?? ''}
    />
  );
}
