import type { InterfacePage } from '@yucca/contract';
import { useMemo, useState, type CSSProperties, type ReactNode } from 'react';
import { printAddress } from '../address.ts';
import type { YuccaClient } from '../client.ts';
import { createMemory, type ViewedRecord } from '../memory.ts';
import { EMPTY_QUERY, withText, withToggled, type Query } from '../query.ts';
import { TextsProvider } from '../react/use-texts.ts';
import { SearchBox } from '../react/view/search-box.tsx';
import { textsOf } from '../texts/texts.ts';
import { OBSERVED, PageElement, type Drawn } from './page-element.tsx';

/**
 * `<yucca-search-field>`: the search field of a page with what it offers, for the header of any site. Results are shown
 * elsewhere: on a page of the site, or on the one that Yucca hosts.
 *
 * Attributes: those of `<yucca-search>`, and `results`: the address of the page with results, with `{q}` in it for what
 * was typed; default: the page Yucca hosts.
 */
export class YuccaSearchField extends PageElement {
  static observedAttributes = [...OBSERVED, 'results'];

  protected override draw({ page, client, server, key }: Drawn): ReactNode {
    const results = this.getAttribute('results');
    const hrefOf = (query: Query): string => {
      if (results === null) return `${server}${page.at}?${printAddress(query)}`;
      // A page of the site may know nothing of facets: a value is a word to look for.
      const [value] = Object.values(query.select).flat();
      return results.replaceAll('{q}', encodeURIComponent(query.q || String(value ?? '')));
    };
    return (
      <HeaderField
        key={key}
        page={page}
        client={client}
        hrefOf={hrefOf}
        recordHref={this.recordHref(server)}
        picturesFrom={server}
        go={this.follow}
      />
    );
  }
}

interface HeaderFieldProps {
  page: InterfacePage;
  client: YuccaClient;
  hrefOf: (query: Query) => string;
  recordHref: ReturnType<YuccaSearchField['recordHref']>;
  picturesFrom: string;
  go: (href: string) => void;
}

function HeaderField({ page, client, hrefOf, recordHref, picturesFrom, go }: HeaderFieldProps) {
  const [memory] = useState(() => createMemory(page.slug));
  const [text, setText] = useState('');
  const texts = useMemo(() => textsOf(page.locale, page.texts), [page]);
  const ask = (asked: string): void => {
    if (asked.trim() !== '') go(hrefOf(withText(EMPTY_QUERY, asked)));
  };
  const open = (record: ViewedRecord): void => {
    memory.addViewed(record);
    const at = page.autocomplete.find(({ collection }) => collection === record.collection)?.at ?? page.at;
    const { collection, id, href: link } = record;
    go(
      recordHref({ collection, id, at, ...(link !== undefined && { link }) }) ??
        hrefOf(withText(EMPTY_QUERY, record.text)),
    );
  };
  return (
    <TextsProvider value={texts}>
      <div data-yucca="" lang={page.locale} dir={page.dir} style={page.theme as CSSProperties}>
        <form
          role="search"
          onSubmit={(event) => {
            event.preventDefault();
            ask(text);
          }}
        >
          <div data-part="bar">
            <SearchBox
              page={page}
              client={client}
              memory={memory}
              text={text}
              total={null}
              facetLabel={(name) => page.facets.find((facet) => facet.name === name)?.label ?? name}
              onText={setText}
              onAsk={ask}
              onValue={(facet, value) => go(hrefOf(withToggled(EMPTY_QUERY, facet, value)))}
              onRecord={open}
              picturesFrom={picturesFrom}
            />
            <button type="submit" data-part="submit">
              {texts.say('search')}
            </button>
          </div>
        </form>
      </div>
    </TextsProvider>
  );
}
