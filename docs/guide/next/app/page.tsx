import { parseAddress, redirectOf, requestFor, standingRequest } from '@yucca/kit';
import { redirect } from 'next/navigation';
import { client } from '../search/client';
import { Search } from '../search/search';

interface PageProps {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function Page({ searchParams }: PageProps) {
  const page = await client.page('nursery');
  const sent = Object.entries(await searchParams).flatMap(([name, value]) =>
    [value ?? []].flat().map((one) => [name, one]),
  );
  const { query } = parseAddress(new URLSearchParams(sent).toString(), page.facets);
  const answer = await client.search(page.collection, requestFor(query, standingRequest(page)));
  const elsewhere = redirectOf(answer);
  if (elsewhere !== null) redirect(elsewhere);
  return <Search page={page} query={query} answer={answer} />;
}
