/** What stands among the results, one by one. */
import { shownHit, withPage, type SearchAnswer } from '@yucca/kit';
import {
  Badges,
  linkTo,
  Marked,
  MoreResults,
  NearChoice,
  NothingFound,
  Notice,
  Pages,
  ResultCard,
  ResultCount,
  ResultMap,
  ResultTable,
  Shelves,
  SortChoice,
  Trouble,
} from '@yucca/kit/react';
import { useState } from 'react';
import { memory, page, type Shop } from './shop';

// #region ResultCount
export const ResultCountExample = ({ query, answer }: Shop) => <ResultCount answer={answer} asked={query.q} />;
// #endregion

// #region ResultCard
export const ResultCardExample = ({ answer }: Shop) => (
  <ol data-part="list">
    {answer.results.map((result) => (
      <li key={result.id}>
        <ResultCard hit={shownHit(result, page.card)} currency="CHF" href={`#${result.id}`} />
      </li>
    ))}
  </ol>
);
// #endregion

// #region ResultTable
export const ResultTableExample = ({ answer }: Shop) => (
  <ResultTable
    page={{
      ...page,
      table: [
        { field: 'colour', label: 'Colour' },
        { field: 'price', label: 'Price' },
      ],
    }}
    results={answer.results}
    leadOf={({ id }) => ({ href: `#${id}`, onOpen: () => {} })}
  />
);
// #endregion

// #region ResultMap
export function ResultMapExample({ query, answer }: Shop) {
  const [pointed, setPointed] = useState<string | null>(null);
  return (
    <ResultMap
      results={answer.results}
      geo="at"
      near={query.near}
      pointed={pointed}
      onPoint={setPointed}
      nameOf={({ record }) => String(record.name)}
    />
  );
}
// #endregion

// #region NearChoice
export const NearChoiceExample = ({ query, go }: Shop) => (
  <NearChoice query={query} places={page.places} onQuery={go} />
);
// #endregion

// #region SortChoice
export const SortChoiceExample = ({ query, go }: Shop) => <SortChoice query={query} sorts={page.sorts} onQuery={go} />;
// #endregion

// #region Pages
export const PagesExample = ({ query, answer, hrefOf, go }: Shop) => (
  <Pages query={query} answer={answer} hrefOf={hrefOf} go={go} />
);
// #endregion

// #region MoreResults
export const MoreResultsExample = ({ query, answer, hrefOf, go }: Shop) => (
  <MoreResults query={query} answer={answer} loading={false} hrefOf={hrefOf} onMore={go} />
);
// #endregion

// #region linkTo
export const linkToExample = ({ query, hrefOf, go }: Shop) => (
  <a data-part="link" {...linkTo(withPage(query, query.page + 1), { hrefOf, go })}>
    After page {query.page}
  </a>
);
// #endregion

// #region NothingFound
export const NothingFoundExample = ({ query, answer, hrefOf, go }: Shop) =>
  answer.total === 0 ? (
    <NothingFound query={query} answer={answer} hrefOf={hrefOf} go={go} />
  ) : (
    <p>{answer.total} found now.</p>
  );
// #endregion

// #region Notice
export function NoticeExample({ answer }: Shop) {
  // A placement of the tuning says it; here the page does.
  const told: SearchAnswer = { ...answer, understood: { ...answer.understood, notice: 'Ferns rest until April.' } };
  return <Notice answer={told} />;
}
// #endregion

// #region Marked
export const MarkedExample = ({ answer }: Shop) => (
  <ul>
    {answer.results.map(({ id, record, marks }) => (
      <li key={id}>
        <Marked text={String(record.name)} ranges={marks['/name']} />
      </li>
    ))}
  </ul>
);
// #endregion

// #region Badges
export const BadgesExample = () => (
  <Badges
    page={{
      badges: [
        { label: 'New', where: 'price < 10', colour: '#ffd166' },
        { label: 'Safe for pets', where: 'pet_safe = TRUE' },
      ],
    }}
    result={{ meets: [0, 1] }}
  />
);
// #endregion

// #region Shelves
export const ShelvesExample = ({ query, answer }: Shop) => (
  <Shelves
    page={{
      ...page,
      shelves: [{ from: 'found', label: 'Our ferns', collection: 'plants', at: '#', card: page.card, size: 4 }],
    }}
    query={query}
    beside={[answer]}
    memory={memory}
    recordHref={({ id }) => `#${id}`}
    navigate={null}
    picturesFrom=""
  />
);
// #endregion

// #region Trouble
export function TroubleExample() {
  const [tries, setTries] = useState(0);
  return (
    <>
      <Trouble error={new TypeError('no line')} onRetry={() => setTries(tries + 1)} />
      <p>Tried again {tries} times.</p>
    </>
  );
}
// #endregion
