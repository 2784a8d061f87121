import {
  completionsSource,
  createMemory,
  parseAddress,
  pastQueriesSource,
  printAddress,
  recordsSource,
  withChoices,
  withText,
  withToggled,
  type Query,
} from '@yucca/kit';
import {
  AppliedChoices,
  FacetList,
  Marked,
  NothingFound,
  Pages,
  QueryField,
  ResultCount,
  Trouble,
  useAddress,
  useSearch,
  type Navigation,
} from '@yucca/kit/react';
import { useEffect } from 'react';
import { createRoot } from 'react-dom/client';
import { client } from './client';
import type { PlantsRecord } from './plants-record';

// The facets that the address may choose from, and what each of them holds.
const FACETS = [
  { name: 'category', kind: 'tree' as const },
  { name: 'colour', kind: 'values' as const },
  { name: 'price', kind: 'numbers' as const },
];
const memory = createMemory('our-shop');

function Shop() {
  const [snapshot, search] = useSearch<PlantsRecord>(() => ({
    client,
    collection: 'plants',
    request: { facets: FACETS.map(({ name }) => name), size: 12 },
    query: parseAddress(window.location.search, FACETS).query,
  }));
  const go = useAddress(search, FACETS);
  useEffect(() => void search.refresh(), [search]);
  const { query, answer, status, error } = snapshot;

  const navigation: Navigation = {
    hrefOf: (to) => `?${printAddress(to)}`,
    go: (to) => go(to, 'push'),
  };
  return (
    <>
      <Field query={query} total={answer?.total ?? null} go={go} />
      {status === 'failed' && <Trouble error={error} onRetry={() => void search.refresh()} />}
      {answer && (
        <>
          <ResultCount answer={answer} asked={snapshot.answered?.q ?? ''} />
          <AppliedChoices query={query} answer={answer} {...navigation} />
          <FacetList answer={answer} select={query.select} onSelect={(to) => navigation.go(withChoices(query, to))} />
          {answer.total === 0 && <NothingFound query={query} answer={answer} {...navigation} />}
          <ol>
            {answer.results.map(({ id, record, marks }) => (
              <li key={id}>
                <Marked text={record.name} ranges={marks['/name']} /> {record.price.toFixed(2)}
              </li>
            ))}
          </ol>
          <Pages query={query} answer={answer} {...navigation} />
        </>
      )}
    </>
  );
}

function Field({ query, total, go }: { query: Query; total: number | null; go: ReturnType<typeof useAddress> }) {
  return (
    <QueryField
      label="Search our plants"
      sources={() => [
        pastQueriesSource(memory, { label: 'Asked before' }),
        completionsSource(client, { collection: 'plants', label: 'Go on with' }),
        recordsSource(client, [
          { collection: 'plants', label: 'Plants', row: ({ record }) => ({ text: String(record.name) }) },
          { collection: 'guides', label: 'Guides', row: ({ record }) => ({ text: String(record.title) }) },
        ]),
      ]}
      memory={memory}
      text={query.q}
      total={total}
      onText={(text) => go(withText(query, text), 'replace')}
      onAsk={(text) => go(withText(query, text), 'push')}
      onValue={(facet, value) => go(withToggled(withText(query, ''), facet, value), 'push')}
      onRecord={({ collection, id }) => window.location.assign(`#/${collection}/${encodeURIComponent(id)}`)}
    />
  );
}

createRoot(document.getElementById('shop')!).render(<Shop />);
