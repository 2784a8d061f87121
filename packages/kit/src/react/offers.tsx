import type { Suggestion } from '@yucca/contract';
import type { Offer } from '../autocomplete/source.ts';
import { Marked } from './marked.tsx';
import { useTexts } from './use-texts.ts';

/** What `OfferRow` is given. */
export interface OfferRowProps {
  offer: Offer;
  /** Says what a value is one of. */
  facetLabel?: ((facet: string) => string) | undefined;
}

/** A row of what is offered. */
export function OfferRow({ offer, facetLabel }: OfferRowProps) {
  const { say, count } = useTexts();
  return (
    <>
      {offer.picture && (
        // eslint-disable-next-line @next/next/no-img-element -- the kit knows no framework
        <img src={offer.picture} alt="" width={32} height={32} />
      )}
      <span data-part="offer-text">
        <Marked text={offer.text} ranges={offer.ranges} />
        {offer.detail && <span data-part="soft"> {offer.detail}</span>}
        {offer.kind === 'value' && facetLabel && (
          <span data-part="soft"> {say('inFacet', { facet: facetLabel((offer.data as Suggestion).facet ?? '') })}</span>
        )}
      </span>
      {offer.count !== undefined && <span data-part="figure">{count(offer.count)}</span>}
    </>
  );
}
