import type { Card, SearchResult } from '@yucca/contract';
import type { Offer } from '../autocomplete/source.ts';
import { shownHit } from '../card.ts';
import type { FigureFormat } from '../figures.ts';
import type { TextKey } from '../texts/texts.ts';
import { useTexts } from './use-texts.ts';

const HINTS: Readonly<Record<string, TextKey>> = {
  past: 'hintPast',
  viewed: 'hintViewed',
  value: 'hintValue',
  query: 'hintQuery',
};

/** How the records of a collection are shown beside the list. */
export interface PreviewCard {
  card: Card;
  /** How its number is written: in a currency (ISO 4217), or as its field is. */
  currency?: FigureFormat;
}

/** What `OfferPreview` is given. */
export interface OfferPreviewProps {
  offer: Offer;
  /** By the collection a record is of. */
  cardOf: (collection: string) => PreviewCard;
  /** The server that pictures lie on whose addresses begin with a slash. */
  picturesFrom?: string | undefined;
}

/** The record that is pointed at, as far as the list has no room for it; for other rows, what choosing them does. */
export function OfferPreview({ offer, cardOf, picturesFrom }: OfferPreviewProps) {
  const { say, figure: figureText, label } = useTexts();
  if (offer.kind !== 'record') {
    const hint = HINTS[offer.kind];
    return <p data-part="soft">{hint && say(hint)}</p>;
  }
  const { collection, result } = offer.data as { collection: string; result: SearchResult };
  const shown = cardOf(collection);
  const { title, picture, smaller, detail, text, number: figure } = shownHit(result, shown.card, picturesFrom);
  return (
    <>
      {picture && (
        // eslint-disable-next-line @next/next/no-img-element -- the kit knows no framework
        <img srcSet={smaller} sizes="(min-width:640px)320px,112px" src={picture} alt="" width={208} height={156} />
      )}
      <p data-part="preview-title">{title.text}</p>
      {detail && <p data-part="soft">{detail.text}</p>}
      {text && <p data-part="preview-text">{text.text}</p>}
      {figure && (
        <p data-part="soft">
          {label(figure.label)} <b data-part="figure">{figureText(figure.value, shown.currency)}</b>
        </p>
      )}
    </>
  );
}
