/** Texts in ICU MessageFormat, and the languages of a page. */
import fc from 'fast-check';
import type { InterfaceDocument, Message } from '@yucca/contract';
import { ENGLISH, LANGUAGES, textsOf } from '@yucca/kit/texts';
import { fromIcu, namesIn, TextError, toIcu } from '../src/text/icu';
import {
  languageProblems,
  languageTag,
  meantLanguage,
  missingTexts,
  pageLanguage,
  textProblem,
} from '../src/text/page-language';

test('plurals go to the outside: each form is a whole sentence', () => {
  expect(fromIcu('{total, plural, one {# result} other {# results}} for “{query}”')).toEqual({
    of: 'total',
    one: '{total} result for “{query}”',
    other: '{total} results for “{query}”',
  });
  expect(fromIcu('{a, plural, =0 {no} other {#}} in {b, plural, one {# box} other {# boxes}}')).toEqual({
    of: 'a',
    '=0': { of: 'b', one: 'no in {b} box', other: 'no in {b} boxes' },
    other: { of: 'b', one: '{a} in {b} box', other: '{a} in {b} boxes' },
  });
  expect(fromIcu('{n, number} <b>it’s</b>')).toBe('{n} <b>it’s</b>');
});

test('what comes along is written in ICU and read back the same', () => {
  for (const texts of Object.values(LANGUAGES))
    for (const message of Object.values<Message>(texts)) expect(fromIcu(toIcu(message))).toEqual(message);
});

test('any text without braces says itself', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary', maxLength: 40 }), (text) => {
      fc.pre(!/[{}]/.test(text) && !text.includes("'"));
      expect(textsOf('en', { search: fromIcu(text) }).say('search')).toBe(text);
    }),
  );
});

test.each([
  ['{total', /is not in ICU MessageFormat/],
  ['{total, plural, one {x}}', /is not in ICU MessageFormat/],
  ['{total, selectordinal, one {#st} other {#th}}', /ordinal/],
  ['{total, plural, offset:1 other {#}}', /offset/],
  ['{when, date, short}', /date/],
  ["'{total}'", /quoted/],
  [Array.from({ length: 8 }, (_, i) => `{a${i}, plural, one {1} other {2}}`).join(), /more than 60 forms/],
])('%s is refused with a reason', (text, reason) => {
  expect(() => fromIcu(text)).toThrow(TextError);
  expect(() => fromIcu(text)).toThrow(reason);
});

const document: InterfaceDocument = {
  collection: 'plants',
  title: 'Nursery',
  languages: [
    { locale: 'en', texts: { search: 'Find' } },
    { locale: 'de', texts: { search: 'Los' }, labels: { Nursery: 'Gärtnerei', toString: 'x' } },
    { locale: 'pt-BR' },
  ],
};

test('a language is meant by its tag, or by another of the same language; else it is the first', () => {
  const meant = (wanted: string | null) => meantLanguage(document, wanted).locale;
  expect([null, 'de', 'DE-at', 'pt', 'fr', '', 'xx-nonsense'].map(meant)).toEqual(
    ['en', 'de', 'de', 'pt-BR', 'en', 'en', 'en'], // prettier-ignore
  );
  expect(meantLanguage({ collection: 'x' }, 'de').locale).toBe('en');
});

test('own texts before those that come along, these before English; only what differs where English is there', () => {
  const german = pageLanguage(document, 'de', false);
  expect(german).toMatchObject({ locale: 'de', dir: 'ltr', languages: ['en', 'de', 'pt-BR'] });
  expect(german.texts.search).toBe('Los');
  expect(german.texts.filters).toBe('Filter');
  expect(german.texts.pages).toBe('Seiten');
  expect([german.label('Nursery'), german.label('Price'), german.label('constructor')]).toEqual(['Gärtnerei', 'Price', 'constructor']); // prettier-ignore
  expect(pageLanguage(document, 'en', false).texts).toEqual({ search: 'Find' });
  expect(Object.keys(pageLanguage(document, 'en', true).texts).sort()).toEqual(Object.keys(ENGLISH).sort());
  expect(pageLanguage({ collection: 'x', languages: [{ locale: 'ar' }] }, null, false).dir).toBe('rtl');
  expect(missingTexts(document.languages![1]!)).toEqual([]);
  expect(missingTexts(document.languages![2]!)).toHaveLength(Object.keys(ENGLISH).length);
});

test('what is wrong is told with its place', () => {
  expect(textProblem('search', 'Go')).toBeNull();
  expect(textProblem('found', '{total} und {query}')).toBe('the text names {query}, and has {total}');
  expect(textProblem('search', '{x}')).toBe('the text names {x}, and has no values');
  expect(textProblem('constructor', 'x')).toBe('there is no text called “constructor”');
  expect(languageTag('DE-at')).toBe('de-AT');
  expect(languageTag('no tag')).toBeNull();
  expect(
    languageProblems({
      collection: 'x',
      languages: [{ locale: 'de', texts: { found: '{' } }, { locale: 'de' }, { locale: '!' }],
    }).map(({ pointer }) => pointer),
  ).toEqual(['/languages/0/texts/found', '/languages/1/locale', '/languages/2/locale']);
  expect([...namesIn(ENGLISH.foundFor)].sort()).toEqual(['query', 'total']);
});
