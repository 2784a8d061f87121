import type { Card, InterfacePage, PageSection, SearchResult, Suggestion } from '@yucca/contract';
import { useEffect, useRef } from 'react';
import type { AutocompleteOptions } from '../../autocomplete/autocomplete.ts';
import {
  completionsSource,
  pastQueriesSource,
  recordsSource,
  viewedSource,
  type Offer,
  type Source,
} from '../../autocomplete/source.ts';
import { shownHit } from '../../card.ts';
import type { YuccaClient } from '../../client.ts';
import type { Memory, ViewedRecord } from '../../memory.ts';
import { count, counted } from '../figures.ts';
import { Marked } from '../marked.tsx';
import { figureText } from '../results/result-card.tsx';
import { SearchField } from '../search-field.tsx';
import { useAutocomplete } from '../use-autocomplete.ts';

export interface SearchBoxProps {
  page: InterfacePage;
  client: YuccaClient;
  memory: Memory;
  text: string;
  /** Settles when the results of what was typed are there: offers are asked for after them. */
  after?: () => Promise<unknown>;
  /** Results of the text in the field. */
  total: number;
  facetLabel: (facet: string) => string;
  onText: (text: string) => void;
  /** Asks for a text for good: it becomes a step of the history. */
  onAsk: (text: string) => void;
  onValue: (facet: string, value: string) => void;
  /** A record was chosen. */
  onRecord: (record: ViewedRecord) => void;
  /** The server that pictures lie on whose addresses begin with a slash. */
  picturesFrom?: string;
}

type OfCollection = PageSection & { collection: string; card: Card };

const hasCollection = (section: PageSection): section is OfCollection =>
  section.collection !== undefined && section.card !== undefined;

/** The row of a record in the list: what its result card shows, shorter. */
function rowOf(
  result: SearchResult,
  card: Card,
  picturesFrom: string,
): Pick<Offer, 'text' | 'ranges' | 'detail' | 'picture'> {
  const { title, detail, picture } = shownHit(result, card, picturesFrom);
  return {
    text: title.text,
    ranges: title.ranges,
    ...(detail && { detail: detail.text }),
    ...(picture && { picture }),
  };
}

/** The sources for the sections of a page. Neighbours that show records are asked in one request. */
export function sourcesFor(
  sections: readonly PageSection[],
  client: YuccaClient,
  memory: Memory,
  picturesFrom = '',
): Source[] {
  const runs: PageSection[][] = [];
  for (const section of sections) {
    const run = runs.at(-1);
    if (section.from === 'records' && run?.[0]?.from === 'records') run.push(section);
    else runs.push([section]);
  }
  return runs.flatMap((run, i): Source[] => {
    const [{ from, label, size, collection }] = run as [PageSection];
    if (from === 'past') return [pastQueriesSource(memory, { label, size })];
    if (from === 'viewed') return [viewedSource(memory, { label, size })];
    if (from === 'values') return collection ? [completionsSource(client, { collection, label, size })] : [];
    const shown = run.filter(hasCollection).map((section) => ({
      ...section,
      row: (result: SearchResult) => rowOf(result, section.card, picturesFrom),
    }));
    const when = from === 'popular' ? { from: 0, upTo: 0, totals: false } : {};
    return [recordsSource(client, shown, { name: `${from}-${i}`, ...when })];
  });
}

/** The search field of a page with what it offers: before the first letter, and while somebody types. */
export function SearchBox(props: SearchBoxProps) {
  const { page, client, memory, text, total, onText, onAsk, onValue, onRecord, facetLabel, picturesFrom, after } =
    props;
  const [snapshot, state] = useAutocomplete((): AutocompleteOptions => {
    return { text, sources: sourcesFor(page.autocomplete, client, memory, picturesFrom), ...(after && { after }) };
  });
  // Texts typed here that have not come back yet as the page's own; what comes back late is not news.
  const typed = useRef(new Set<string>());
  const type = (next: string): void => {
    typed.current.add(next);
    onText(next);
  };
  // Back, Forward and links change the text from elsewhere.
  useEffect(() => {
    const isOwn = typed.current.has(text);
    const isNewest = state.snapshot().text === text;
    if (isNewest || !isOwn) typed.current.clear();
    if (!isNewest && !isOwn) state.settle(text);
  }, [state, text]);
  const choose = (offer: Offer): void => {
    if (offer.kind === 'value') {
      const { facet, value } = offer.data as Suggestion;
      if (facet !== undefined && value !== undefined) onValue(facet, value);
    } else if (offer.kind === 'viewed') onRecord(offer.data as ViewedRecord);
    else if (offer.kind === 'record') onRecord(recordOf(offer));
    else {
      memory.addQuery(offer.text);
      onAsk(offer.text);
    }
  };
  return (
    <SearchField
      state={state}
      snapshot={snapshot}
      label={`Search ${page.title}`}
      text={text}
      onText={type}
      onChoose={choose}
      renderOffer={(offer) => <OfferRow offer={offer} facetLabel={facetLabel} />}
      renderPreview={(offer) => <Preview offer={offer} page={page} picturesFrom={picturesFrom} />}
      footer={
        text !== '' && (
          <button
            type="submit"
            tabIndex={-1}
            data-part="all-results"
            onPointerDown={(event) => event.preventDefault()}
            onClick={() => state.close()}
          >
            All {counted(total, 'result')} for “{text}” <kbd>Enter</kbd>
          </button>
        )
      }
      input={{
        name: 'q',
        placeholder: `Search ${page.title}`,
        maxLength: 512,
        // Enter that chose a row was not meant for the text.
        onKeyDown: (event) => {
          if (event.key === 'Enter' && !event.defaultPrevented) memory.addQuery(event.currentTarget.value);
        },
      }}
    />
  );
}

function recordOf({ text, detail, picture, data }: Offer): ViewedRecord {
  const { collection, result } = data as { collection: string; result: SearchResult };
  return { collection, id: result.id, text, ...(detail && { detail }), ...(picture && { picture }) };
}

function OfferRow({ offer, facetLabel }: { offer: Offer; facetLabel: (facet: string) => string }) {
  return (
    <>
      {offer.picture && (
        // eslint-disable-next-line @next/next/no-img-element -- the kit knows no framework
        <img src={offer.picture} alt="" width={32} height={32} />
      )}
      <span data-part="offer-text">
        <Marked text={offer.text} ranges={offer.ranges} />
        {offer.detail && <span data-part="soft"> {offer.detail}</span>}
        {offer.kind === 'value' && (
          <span data-part="soft"> in {facetLabel((offer.data as Suggestion).facet ?? '')}</span>
        )}
      </span>
      {offer.count !== undefined && <span data-part="figure">{count(offer.count)}</span>}
    </>
  );
}

const HINTS: Readonly<Record<string, string>> = {
  past: 'Asked before on this device. Shift+Delete forgets it.',
  viewed: 'Seen before on this device. Shift+Delete forgets it.',
  value: 'Shows everything of this kind.',
  query: 'Others have asked for this.',
};

/** The record that is pointed at, as far as the list has no room for it. */
function Preview({
  offer,
  page,
  picturesFrom,
}: {
  offer: Offer;
  page: InterfacePage;
  picturesFrom: string | undefined;
}) {
  if (offer.kind !== 'record') return <p data-part="soft">{HINTS[offer.kind]}</p>;
  const { collection, result } = offer.data as { collection: string; result: SearchResult };
  const card = page.autocomplete.find((section) => section.collection === collection)?.card ?? page.card;
  const { title, picture, detail, text, number: figure } = shownHit(result, card, picturesFrom);
  return (
    <>
      {picture && (
        // eslint-disable-next-line @next/next/no-img-element -- the kit knows no framework
        <img src={picture} alt="" width={208} height={156} />
      )}
      <p data-part="preview-title">{title.text}</p>
      {detail && <p data-part="soft">{detail.text}</p>}
      {text && <p data-part="preview-text">{text.text}</p>}
      {figure && (
        <p data-part="soft">
          {figure.label}{' '}
          <b data-part="figure">{figureText(figure, collection === page.collection ? page.currency : null)}</b>
        </p>
      )}
    </>
  );
}
