import type { Message, Messages } from '@yucca/contract';
import { count, distance, figure, type FigureFormat } from '../figures.ts';
import { ENGLISH } from './english.ts';

/** Which text: one of those of a page. */
export type TextKey = keyof typeof ENGLISH;

/** All texts of a language, or some of them. */
export type TextsOf = Partial<Record<TextKey, Message>>;

/** Numbers are written as the language does. */
export type TextValues = Readonly<Record<string, string | number>>;

/** What a page says, in one language. */
export interface Texts {
  /** The language, as a tag of BCP 47. */
  readonly locale: string;
  /** A text with its values. */
  say: (key: TextKey, values?: TextValues) => string;
  /** The same in pieces: what `draw` makes of the values that it names, and the text between them. */
  pieces: <T>(key: TextKey, values: TextValues, draw: Readonly<Record<string, (text: string) => T>>) => (string | T)[];
  /** A whole number, as the language writes it. */
  count: (value: number) => string;
  /** The number that somebody typed as the language writes it; null for what is none. */
  number: (text: string) => number | null;
  /** A number, or an amount of a currency (ISO 4217), or as its field is written. */
  figure: (value: number, format?: FigureFormat) => string;
  /** In metres or kilometres. */
  distance: (metres: number) => string;
  /** "“a”, “b” or “c”". */
  oneOf: (words: readonly string[]) => string;
  /** What a name of the data is called in this language: of a field, a facet, a section. */
  label: (name: string) => string;
}

/** The key under which a name of the data is called otherwise. */
const LABEL = 'label:';

/** Names come from designs and data: what every object has is no text. */
const at = <T>(map: Readonly<Record<string, T>>, name: string): T | undefined =>
  Object.hasOwn(map, name) ? map[name] : undefined;

/** The form of a message for its values: by their plural category (CLDR), or by what they are. */
function formOf(message: Message, values: TextValues, plurals: Intl.PluralRules): string {
  let form = message;
  while (typeof form !== 'string') {
    const value = at(values, form.of);
    const category = typeof value === 'number' ? plurals.select(value) : String(value);
    form = at(form, `=${value}`) ?? at(form, category) ?? form.other;
  }
  return form;
}

/**
 * The texts of a language: `messages` are those of it (`@yucca/kit/texts/german` and others, or your own), with English
 * for what they lack.
 */
export function textsOf(locale = 'en', messages: TextsOf | Messages = {}): Texts {
  const plurals = new Intl.PluralRules(locale);
  const own = messages as Messages;
  const pieces: Texts['pieces'] = (key, values, draw) => {
    const form = formOf(at(own, key) ?? ENGLISH[key] ?? '', values, plurals);
    return form.split(/\{(\w+)\}/).map((piece, i) => {
      if (i % 2 === 0) return piece;
      const value = at(values, piece) ?? '';
      const text = typeof value === 'number' ? count(value, locale) : value;
      return at(draw, piece)?.(text) ?? text;
    });
  };
  const say: Texts['say'] = (key, values = {}) => pieces(key, values, {}).join('');
  return {
    locale,
    say,
    pieces,
    count: (value) => count(value, locale),
    number(text) {
      const [, group = '', decimal = '.'] = /^1(\D?)111(\D)5/.exec(count(1111.5, locale)) ?? [];
      // What parts thousands, before three digits; and what stands between the whole and its half.
      const plain = text
        .trim()
        .replace(/\D(?=(\d{3}(?!\d))?)/g, (sign, thousand) =>
          sign === group && thousand ? '' : sign === decimal ? '.' : sign,
        );
      return plain !== '' && Number.isFinite(Number(plain)) ? Number(plain) : null;
    },
    figure: (value, format) => figure(value, format, locale),
    distance: (metres) => distance(metres, locale),
    oneOf: (words) =>
      new Intl.ListFormat(locale, { type: 'disjunction' }).format(words.map((text) => say('quoted', { text }))),
    label: (name) => (at(own, LABEL + name) as string | undefined) ?? name,
  };
}

/** English, as it is without being asked. */
export const ENGLISH_TEXTS = /* @__PURE__ */ textsOf();
