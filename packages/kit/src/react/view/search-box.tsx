import type { InterfacePage } from '@yucca/contract';
import { sourcesFor } from '../../autocomplete/page-sources.ts';
import type { Offer } from '../../autocomplete/source.ts';
import type { YuccaClient } from '../../client.ts';
import { useTexts } from '../use-texts.ts';
import { OfferPreview } from '../offer-preview.tsx';
import { QueryField, type QueryFieldProps } from '../query-field.tsx';

/** What `SearchBox` is given. */
export interface SearchBoxProps extends Omit<QueryFieldProps, 'label' | 'sources' | 'design' | 'renderPreview'> {
  page: InterfacePage;
  client: YuccaClient;
  /** The server that pictures lie on whose addresses begin with a slash. */
  picturesFrom?: string;
}

/** The search field of a page, with what its design offers. */
export function SearchBox({ page, client, picturesFrom, ...field }: SearchBoxProps) {
  const { say, figure } = useTexts();
  const { letters, delayMs, enter, preview = true } = page.typing ?? {};
  return (
    <QueryField
      {...field}
      label={say('searchIn', { title: page.title })}
      sources={() => sourcesFor(page.autocomplete, client, field.memory, picturesFrom, letters, figure)}
      design={[page.autocomplete, page.typing]}
      waitMs={delayMs}
      enter={enter}
      {...(preview && {
        renderPreview: (offer: Offer) => (
          <OfferPreview
            offer={offer}
            picturesFrom={picturesFrom}
            cardOf={(collection) => {
              const section = page.autocomplete.find((one) => one.collection === collection);
              return {
                card: section?.card ?? page.card,
                currency: section?.format ?? (collection === page.collection ? page.currency : null),
              };
            }}
          />
        ),
      })}
    />
  );
}
