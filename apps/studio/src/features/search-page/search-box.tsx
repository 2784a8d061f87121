'use client';

import type { Card, SearchResult, Suggestion } from '@yucca/contract';
import {
  completionsSource,
  createMemory,
  pastQueriesSource,
  recordsSource,
  type AutocompleteOptions,
  type Offer,
  type YuccaClient,
} from '@yucca/kit';
import { Marked, SearchField, useAutocomplete } from '@yucca/kit/react';
import clsx from 'clsx';
import { useEffect, useState } from 'react';
import { count } from '@/ui/format';
import { figureText } from './result-card';
import { shownHit } from './shown-hit';

export interface SearchBoxProps {
  collection: string;
  title: string;
  card: Card;
  client: YuccaClient;
  text: string;
  /** Results of the text in the field. */
  total: number;
  /** Of the empty query. */
  all: number;
  facetLabel: (facet: string) => string;
  onText: (text: string) => void;
  /** Asks for a text for good: it becomes a step of the history. */
  onAsk: (text: string) => void;
  onValue: (facet: string, value: string) => void;
}

/** The row of a record in the list: what its result card shows, shorter. */
function rowOf(result: SearchResult, card: Card): Pick<Offer, 'text' | 'ranges' | 'detail' | 'picture'> {
  const hit = shownHit(result, card);
  return {
    text: hit.title.text,
    ranges: hit.title.ranges,
    ...(hit.detail && { detail: hit.detail.text }),
    ...(hit.picture && { picture: hit.picture }),
  };
}

/** The search field of a hosted page with what it offers: before the first letter, and while somebody types. */
export function SearchBox({
  collection,
  title,
  card,
  client,
  text,
  total,
  all,
  facetLabel,
  onText,
  onAsk,
  onValue,
}: SearchBoxProps) {
  const [memory] = useState(() => createMemory(collection));
  const [snapshot, state] = useAutocomplete((): AutocompleteOptions => {
    const row = (result: SearchResult) => rowOf(result, card);
    return {
      text,
      sources: [
        pastQueriesSource(memory, { label: 'Asked before', size: 4 }),
        completionsSource(client, { collection, label: 'Narrow to', size: 4 }),
        recordsSource(client, [{ collection, label: title, size: 5, row }]),
        recordsSource(client, [{ collection, label: 'Popular now', size: 5, row }], {
          name: 'popular',
          from: 0,
          upTo: 0,
          totals: false,
        }),
      ],
    };
  });
  // Back, Forward and links change the text from elsewhere.
  useEffect(() => {
    if (state.snapshot().text !== text) state.settle(text);
  }, [state, text]);
  const choose = (offer: Offer): void => {
    if (offer.kind === 'value') {
      const { facet, value } = offer.data as Suggestion;
      if (facet !== undefined && value !== undefined) onValue(facet, value);
      return;
    }
    memory.addQuery(offer.text);
    onAsk(offer.text);
  };
  return (
    <SearchField
      state={state}
      snapshot={snapshot}
      label={`Search ${title.toLowerCase()}`}
      text={text}
      onText={onText}
      onChoose={choose}
      renderOffer={(offer) => <OfferRow offer={offer} facetLabel={facetLabel} />}
      renderPreview={(offer) => <Preview offer={offer} card={card} />}
      footer={
        text !== '' && (
          <button
            type="submit"
            tabIndex={-1}
            className="col-span-full min-h-9 border-t border-line px-4 text-left font-medium text-agave hover:bg-sunk"
            onPointerDown={(event) => event.preventDefault()}
            onClick={() => state.close()}
          >
            All {count(total)} {total === 1 ? 'result' : 'results'} for “{text}”{' '}
            <kbd className="figures text-xs">↵</kbd>
          </button>
        )
      }
      input={{
        name: 'q',
        placeholder: `Search ${count(all)} ${title.toLowerCase()}`,
        maxLength: 512,
        // Enter that chose a row was not meant for the text.
        onKeyDown: (event) => {
          if (event.key === 'Enter' && !event.defaultPrevented) memory.addQuery(event.currentTarget.value);
        },
      }}
      classes={{
        root: 'relative min-w-0 flex-1',
        input: 'field h-12 w-full px-4 text-[17px]',
        popup:
          'absolute inset-x-0 top-full z-20 mt-1 grid max-sm:right-auto max-sm:w-[calc(100vw-2rem)] max-h-[72vh] overflow-hidden rounded-md border border-field-line bg-raised md:grid-cols-[minmax(0,1fr)_240px]',
        list: 'max-h-[64vh] min-w-0 overflow-y-auto py-1',
        section: 'not-first:border-t not-first:border-line py-1',
        heading: 'px-4 pt-1 pb-0.5 text-xs text-soft',
        offer: clsx('flex min-h-9 cursor-pointer items-center gap-3 px-4 py-1', 'aria-selected:bg-agave-tint'),
        preview: 'hidden border-l border-line p-4 md:block',
      }}
    />
  );
}

function OfferRow({ offer, facetLabel }: { offer: Offer; facetLabel: (facet: string) => string }) {
  return (
    <>
      {offer.picture && (
        // eslint-disable-next-line @next/next/no-img-element -- pictures come from the records, of any host and size
        <img src={offer.picture} alt="" width={32} height={32} className="size-8 shrink-0 rounded object-cover" />
      )}
      <span className="min-w-0 flex-1 truncate">
        <Marked text={offer.text} ranges={offer.ranges} />
        {offer.detail && <span className="ml-2 text-[13px] text-soft">{offer.detail}</span>}
        {offer.kind === 'value' && (
          <span className="ml-2 text-[13px] text-soft">in {facetLabel((offer.data as Suggestion).facet ?? '')}</span>
        )}
      </span>
      {offer.count !== undefined && <span className="figures text-xs text-soft">{count(offer.count)}</span>}
    </>
  );
}

/** The record that is pointed at, as far as the list has no room for it. */
function Preview({ offer, card }: { offer: Offer; card: Card }) {
  if (offer.kind !== 'record') return <p className="text-[13px] text-soft">{hintFor(offer)}</p>;
  const { result } = offer.data as { result: SearchResult };
  const { title, picture, detail, text, number: figure } = shownHit(result, card);
  return (
    <>
      {picture && (
        // eslint-disable-next-line @next/next/no-img-element -- pictures come from the records, of any host and size
        <img src={picture} alt="" width={208} height={156} className="mb-3 aspect-[4/3] w-full rounded object-cover" />
      )}
      <p className="font-medium">{title.text}</p>
      {detail && <p className="text-[13px] text-soft">{detail.text}</p>}
      {text && <p className="mt-2 line-clamp-4 text-[13px] leading-[18px]">{text.text}</p>}
      {figure && (
        <p className="mt-2 text-[13px] text-soft">
          {figure.label} <span className="figures text-ink">{figureText(figure)}</span>
        </p>
      )}
    </>
  );
}

const hintFor = ({ kind }: Offer): string =>
  kind === 'past'
    ? 'You asked this before, on this device. Shift+Delete forgets it.'
    : 'Shows everything of this kind.';
