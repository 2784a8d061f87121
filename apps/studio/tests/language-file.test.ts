/** The texts of a language as a file: out and in again, with what cannot be used told. */
import { interfacePage, type InterfacePage } from '@yucca/contract';
import { ENGLISH } from '@yucca/kit/texts';
import { languageFile, pageNames, readLanguageFile, usualText } from '../src/text/language-file';

const german = { locale: 'de', texts: { search: 'Los' }, labels: { Price: 'Preis' } };

test('what leaves comes back the same, and only what is other than usual is kept', () => {
  const file = languageFile(german, ['Price', 'Colour']);
  expect(Object.keys(file.texts).sort()).toEqual(Object.keys(ENGLISH).sort());
  expect(file.texts.found).toBe('{total, plural, one {{total} Ergebnis} other {{total} Ergebnisse}}');
  expect(file.labels).toEqual({ Price: 'Preis', Colour: 'Colour' });
  expect(readLanguageFile(JSON.parse(JSON.stringify(file)))).toEqual({ language: german, left: [] });
});

test('a language that does not come along is written from the English texts', () => {
  expect(usualText('nl', 'search')).toBe('Search');
  const file = languageFile({ locale: 'nl' }, []);
  file.texts.search = 'Zoeken';
  expect(readLanguageFile(file).language).toEqual({ locale: 'nl', texts: { search: 'Zoeken' } });
});

test('what cannot be used is left out, and told; a file that is none is refused', () => {
  const { language, left } = readLanguageFile({
    locale: 'DE',
    texts: { search: 'Los', found: '{', gone: 'x', filters: 3, results: '' },
    labels: { Price: 7, Colour: 'Farbe', '': '' },
  });
  expect(language).toEqual({ locale: 'de', texts: { search: 'Los' }, labels: { Colour: 'Farbe' } });
  expect(left.map((one) => one.split(':')[0])).toEqual(['found', 'gone', 'filters', 'results', 'Price', '']);
  for (const bad of [null, [], 'x', {}, { locale: 3 }, { locale: 'not a tag' }])
    expect(() => readLanguageFile(bad)).toThrow(/locale|language tag/);
  expect(readLanguageFile({ locale: 'fr', texts: [1], labels: null })).toEqual({
    language: { locale: 'fr' },
    left: [],
  });
});

test('the names of a page: its own, not those of sections that say themselves', () => {
  const card = { title: 'name', picture: null, text: null, number: 'price_now', detail: null };
  const page: InterfacePage = interfacePage(
    { collection: 'plants', title: 'Shop', header: { links: [{ label: 'Home', href: '/' }] } },
    {
      ...{ slug: 's', title: 'Plants', records: 1, key: 'id', geo: null, card, others: {} },
      facets: [{ name: 'colour', kind: 'values', label: 'Colour', field: 'colour' }],
      sorts: [{ name: 'new', label: 'Newest' }],
    },
  );
  expect(pageNames(page)).toEqual(['Shop', 'Colour', 'Newest', 'Home', 'Price now']);
});
