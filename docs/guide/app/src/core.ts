import { EMPTY_QUERY, markedPieces, SearchState, withText } from '@yucca/kit';
import { client } from './client';

const shop = document.getElementById('shop')!;
const field = document.createElement('input');
field.type = 'search';
field.setAttribute('aria-label', 'Search our plants');
const list = document.createElement('ol');
shop.append(field, list);

const search = new SearchState({ client, collection: 'plants', request: { size: 10 } });

field.addEventListener('input', () => search.ask(withText(EMPTY_QUERY, field.value)));

// An answer that a newer one has overtaken never gets here.
search.subscribe(() => {
  const { answer } = search.snapshot();
  if (!answer) return;
  list.replaceChildren(
    ...answer.results.map(({ record, marks }) => {
      const row = document.createElement('li');
      for (const { text, marked } of markedPieces(String(record.name), marks['/name'])) {
        const piece = document.createElement(marked ? 'mark' : 'span');
        piece.textContent = text;
        row.append(piece);
      }
      return row;
    }),
  );
});

void search.refresh();
