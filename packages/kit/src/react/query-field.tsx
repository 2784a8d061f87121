import { QUERY_LENGTH, type SearchResult, type Suggestion } from '@yucca/contract';
import { useEffect, useRef, type ReactNode } from 'react';
import type { Offer, Source } from '../autocomplete/source.ts';
import type { Memory, ViewedRecord } from '../memory.ts';
import { OfferRow } from './offers.tsx';
import { SearchField } from './search-field.tsx';
import { useAutocomplete } from './use-autocomplete.ts';
import { useChanged } from './use-changed.ts';
import { useTexts } from './use-texts.ts';

/** What `QueryField` is given. */
export interface QueryFieldProps {
  /** What the field is called, and says while it is empty. */
  label: string;
  /** What is offered, in order. Asked for at first, and again when `design` is another. */
  sources: () => Source[];
  /** A plain value the sources are made from. */
  design?: unknown;
  memory: Memory;
  text: string;
  /** Settles when the results of what was typed are there: offers are asked for after them. */
  after?: () => Promise<unknown>;
  /** Results of the text in the field; null = not known here. */
  total: number | null;
  /** What a facet is called. Default: its name. */
  facetLabel?: (facet: string) => string;
  /** Takes what stands in the field, with every letter. */
  onText: (text: string) => void;
  /** Asks for a text for good: it becomes a step of the history. */
  onAsk: (text: string) => void;
  /** A value of a facet was chosen. */
  onValue: (facet: string, value: string) => void;
  /** A record was chosen. */
  onRecord: (record: ViewedRecord) => void;
  /** A row that leads somewhere was chosen. Default: the browser goes there. */
  onLink?: (href: string) => void;
  /** How long offers wait after a letter, in milliseconds. Default: 0. */
  waitMs?: number | undefined;
  /** What Enter does while no row is pointed at: what was typed is asked for, or the first row is chosen. */
  enter?: 'results' | 'first' | undefined;
  /** What is shown beside the list for the row that is pointed at. */
  renderPreview?: (offer: Offer) => ReactNode;
}

/**
 * The search field of a page with what it offers, before the first letter and while somebody types. Rows do what they
 * are: a value is chosen in its facet, a record is opened, a query is asked for and remembered.
 */
export function QueryField(props: QueryFieldProps) {
  const { label, sources, design, memory, text, after, total, facetLabel, renderPreview } = props;
  const { onText, onAsk, onValue, onRecord, onLink, waitMs, enter } = props;
  const { say } = useTexts();
  const [snapshot, state] = useAutocomplete(() => ({
    text,
    sources: sources(),
    after,
    waitMs,
  }));
  useChanged(design, () => state.change(sources()));
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
    else if (offer.href !== undefined) (onLink ?? goTo)(offer.href);
    else {
      memory.addQuery(offer.text);
      onAsk(offer.text);
    }
  };
  return (
    <SearchField
      state={state}
      snapshot={snapshot}
      label={label}
      text={text}
      onText={type}
      onChoose={choose}
      renderOffer={(offer) => <OfferRow offer={offer} facetLabel={facetLabel} />}
      renderPreview={renderPreview}
      footer={
        text !== '' && (
          <button
            type="submit"
            tabIndex={-1}
            data-part="all-results"
            onPointerDown={(event) => event.preventDefault()}
            onClick={() => state.close()}
          >
            {total === null ? say('allFor', { query: text }) : say('allOfFor', { total, query: text })} <kbd>Enter</kbd>
          </button>
        )
      }
      input={{
        name: 'q',
        placeholder: label,
        maxLength: QUERY_LENGTH,
        // Enter that chose a row was not meant for the text.
        onKeyDown: (event) => {
          if (event.key !== 'Enter' || event.defaultPrevented) return;
          const [first] = snapshot.offers;
          // Offers that are on their way may be other ones.
          if (enter === 'first' && text !== '' && snapshot.open && !snapshot.loading && first) {
            event.preventDefault();
            state.close();
            choose(first);
          } else memory.addQuery(event.currentTarget.value);
        },
      }}
    />
  );
}

const goTo = (href: string): void => window.location.assign(href);

function recordOf({ text, detail, picture, href, data }: Offer): ViewedRecord {
  const { collection, result } = data as { collection: string; result: SearchResult };
  return { collection, id: result.id, text, detail, picture, href };
}
