/** @jest-environment jsdom */
/** What a page says in its language: every text there, whole sentences, numbers as the language writes them. */
import type { Message } from '@yucca/contract';
import { render, screen } from '@testing-library/react';
import { textsOf } from '../src/texts/texts.ts';
import { ENGLISH, GERMAN, LANGUAGES, type TextKey } from '../src/texts/index.ts';
import { MOMENTS } from '../src/texts/moments.ts';
import { NothingFound, Pages, ResultCount, TextsProvider } from '../src/react/index.ts';
import { EMPTY_QUERY } from '../src/query.ts';
import { answerWith } from './answers.ts';

const KEYS = Object.keys(ENGLISH) as TextKey[];

/** Each sentence that a text may become. */
function sentences(message: Message): string[] {
  if (typeof message === 'string') return [message];
  return Object.entries(message).flatMap(([form, one]) => (form === 'of' ? [] : sentences(one)));
}
const namesIn = (message: Message): string[] =>
  sentences(message).flatMap((text) => [...text.matchAll(/\{(\w+)\}/g)].map(([, name]) => name!));

test.each(Object.keys(LANGUAGES))('%s: every text is there, with values that the text has', (locale) => {
  const language = LANGUAGES[locale]!;
  expect(Object.keys(language).sort()).toEqual([...KEYS].sort());
  for (const key of KEYS) {
    const known = new Set(namesIn(ENGLISH[key]));
    const message = language[key];
    expect({ key, unknown: namesIn(message).filter((name) => !known.has(name)) }).toEqual({ key, unknown: [] });
    if (typeof message !== 'string') {
      // It has a form for each number the language tells apart.
      const { pluralCategories } = new Intl.PluralRules(locale).resolvedOptions();
      // Forms for no or for huge numbers may be those of the others.
      expect({ key, hasOne: 'one' in message }).toEqual({ key, hasOne: pluralCategories.includes('one') });
    }
  }
});

test('where each text stands is told once', () => {
  const told = MOMENTS.flatMap(({ texts }) => Object.keys(texts));
  expect([...told].sort()).toEqual([...KEYS].sort());
});

test('numbers, amounts and distances as the language writes them; plurals by its own rules', () => {
  const german = textsOf('de', GERMAN);
  expect(german.say('foundFor', { total: 3012, query: 'farn' })).toBe('3.012 Ergebnisse für „farn“');
  expect(german.say('found', { total: 1 })).toBe('1 Ergebnis');
  expect(german.figure(4.5, 'EUR')).toBe('4,50\u00a0€');
  expect(german.distance(12_400)).toBe('12,4 km');
  expect(german.oneOf(['a', 'b'])).toBe('„a“ oder „b“');
  const arabic = textsOf('ar', LANGUAGES.ar);
  expect([0, 1, 2, 3, 11, 100].map((total) => arabic.say('found', { total }).replace(/[\d٠-٩]+/g, '#'))).toEqual(
    ['لا نتائج', 'نتيجة واحدة', 'نتيجتان', '# نتائج', '# نتيجة', '# نتيجة'], // prettier-ignore
  );
});

test('a number is read as the language writes it, with a point as well', () => {
  const [english, german, french] = [textsOf(), textsOf('de'), textsOf('fr')];
  expect(['6.5', '1,234', '1,234.5', ' 12 ', '6,5', '', 'x', '-3'].map(english.number)).toEqual(
    [6.5, 1234, 1234.5, 12, null, null, null, -3], // prettier-ignore
  );
  expect(['6,5', '6.5', '1.234', '1.234.567,5', '12'].map(german.number)).toEqual([6.5, 6.5, 1234, 1234567.5, 12]);
  expect(french.number(french.count(1234.5))).toBe(1234.5);
});

test('values are values: braces in them are no names, and names that objects have are none', () => {
  const { say, pieces } = textsOf('en', { found: '{total} of {constructor}', nothingFor: { of: 'toString', other: 'Nothing.' } }); // prettier-ignore
  expect(say('foundFor', { total: 2, query: '{total} {query}' })).toBe('2 results for “{total} {query}”');
  expect(say('found', { total: 2 })).toBe('2 of ');
  expect(say('nothingFor', { query: 'x' })).toBe('Nothing.');
  expect(pieces('found', { total: 2 }, {}).join('')).toBe('2 of ');
  expect(textsOf('en', { 'label:Price': 'Cost' }).label('Price')).toBe('Cost');
  expect(textsOf().label('toString')).toBe('toString');
});

test('the parts below a provider speak its language', () => {
  const navigation = { hrefOf: () => '#', go: () => {} };
  const answer = answerWith({ results: 20, total: 3012, page: 2 });
  render(
    <TextsProvider value={textsOf('de', GERMAN)}>
      <ResultCount answer={answer} asked="farn" />
      <Pages query={EMPTY_QUERY} answer={answer} {...navigation} />
      <NothingFound query={{ ...EMPTY_QUERY, q: 'x' }} answer={answerWith()} {...navigation} />
    </TextsProvider>,
  );
  expect(document.querySelector('[data-part=count]')!.textContent).toBe('3.012 Ergebnisse für „farn“ · 21 bis 40');
  expect(document.querySelector('[data-part=count] strong')!.textContent).toBe('3.012');
  expect(screen.getByRole('navigation', { name: 'Seiten' })).toBeTruthy();
  expect(screen.getByText('Nichts gefunden für „x“.')).toBeTruthy();
  expect(screen.getByText('Alles ansehen')).toBeTruthy();
});
