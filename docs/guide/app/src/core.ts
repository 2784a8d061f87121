import { EMPTY_QUERY, markedPieces, SearchState, withText } from '@yucca/kit';
import { client } from './client';

const shop = document.getElementById('shop')!;
const field = document.createElement('input');
field.type = 'search';
field.setAttribute('aria-label', 'Search our plants');
const count = document.createElement('p');
const list = document.createElement('ol');
shop.append(field, count, list);

const search = new SearchState({
  client,
  collection: 'plants',
  request: { size: 10 },
  // More collections for the same words, answered in the same request.
  beside: [{ collection: 'guides', request: { size: 3 } }],
});

field.addEventListener('input', () => search.ask(withText(EMPTY_QUERY, field.value)));

// An answer that a newer one has overtaken never gets here.
search.subscribe(() => {
  const { answer, beside } = search.snapshot();
  if (!answer) return;
  count.textContent = `${answer.total} plants, ${beside[0]?.total ?? 0} guides`;
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
