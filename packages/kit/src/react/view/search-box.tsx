import type { InterfacePage } from '@yucca/contract';
import { sourcesFor } from '../../autocomplete/page-sources.ts';
import type { YuccaClient } from '../../client.ts';
import { useTexts } from '../use-texts.ts';
import { OfferPreview } from '../offers.tsx';
import { QueryField, type QueryFieldProps } from '../query-field.tsx';

export interface SearchBoxProps extends Omit<QueryFieldProps, 'label' | 'sources' | 'design' | 'renderPreview'> {
  page: InterfacePage;
  client: YuccaClient;
  /** The server that pictures lie on whose addresses begin with a slash. */
  picturesFrom?: string;
}

/** The search field of a page, with what its design offers. */
export function SearchBox({ page, client, picturesFrom, ...field }: SearchBoxProps) {
  const { say } = useTexts();
  return (
    <QueryField
      {...field}
      label={say('searchIn', { title: page.title })}
      sources={() => sourcesFor(page.autocomplete, client, field.memory, picturesFrom)}
      design={page.autocomplete}
      renderPreview={(offer) => (
        <OfferPreview
          offer={offer}
          picturesFrom={picturesFrom}
          cardOf={(collection) => ({
            card: page.autocomplete.find((section) => section.collection === collection)?.card ?? page.card,
            currency: collection === page.collection ? page.currency : null,
          })}
        />
      )}
    />
  );
}
