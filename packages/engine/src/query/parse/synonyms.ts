import type { SynonymGroup, Tuning } from '@yucca/contract';
import { memoByObject } from '../../memo/by-object.ts';
import { languagesOf } from '../../text/languages.ts';
import { stemmerFor } from '../../text/stem.ts';
import { phraseWords } from '../../text/tokens.ts';
import { words } from '../../text/words.ts';

/** A run of query words `[from, to)` that may also be read as the words of `as`, standing together. */
export interface Span {
  from: number;
  to: number;
  as: string[];
}

interface Rule {
  from: string[];
  to: string[][];
}

/** The synonyms of one tuning by their first word, so that thousands of groups cost nothing at a keystroke. */
export class Synonyms {
  readonly #byFirst = new Map<string, Rule[]>();
  readonly #form: (word: string) => string;

  /** `language`: whose other forms of words count as well; null = none. */
  constructor(synonyms: readonly SynonymGroup[], language: string | null) {
    this.#form = (language === null ? null : stemmerFor(language)) ?? ((word) => word);
    for (const group of synonyms) {
      if (group.kind === 'oneWay') {
        const to = distinct(group.to.map(phraseWords));
        distinctTexts(group.from).forEach((from) => this.#add(from, to));
      } else {
        const all = distinct(group.words.map(phraseWords));
        distinctTexts(group.words).forEach((from) => this.#add(from, all));
      }
    }
  }

  #add(text: string, to: string[][]): void {
    const from = words(text).map((word) => word.text);
    const own = phraseWords(text).join(' ');
    const usable = to.filter((words) => words.length > 0 && words.join(' ') !== own);
    if (from.length === 0 || usable.length === 0) return;
    const first = this.#form(from[0]!);
    const rules = this.#byFirst.get(first);
    if (rules) rules.push({ from, to: usable });
    else this.#byFirst.set(first, [{ from, to: usable }]);
  }

  /** What runs of these words also mean. One step only: a synonym's synonyms are not looked up. */
  spans(query: readonly (string | null)[]): Span[] {
    if (this.#byFirst.size === 0) return [];
    const forms = query.map((word) => (word === null ? null : this.#form(word)));
    const spans: Span[] = [];
    forms.forEach((first, from) => {
      for (const rule of first === null ? [] : (this.#byFirst.get(first) ?? [])) {
        const to = from + rule.from.length;
        if (to > forms.length || rule.from.some((word, i) => this.#form(word) !== forms[from + i])) continue;
        for (const as of rule.to) spans.push({ from, to, as });
      }
    });
    return spans;
  }
}

/** Words that fold to the same are one: a list from elsewhere often holds both `Rose` and `rose`. */
function distinct(list: readonly string[][]): string[][] {
  return [...new Map(list.map((words) => [words.join(' '), words])).values()];
}

const distinctTexts = (list: readonly string[]): string[] => [
  ...new Map(list.map((text) => [phraseWords(text).join(' '), text])).values(),
];

/** The compiled form of a list, by the language whose other forms of words count as well; null = none. */
export const compiledOf = memoByObject((groups: readonly SynonymGroup[]) => {
  const compiled = new Map<string | null, Synonyms>();
  return (language: string | null): Synonyms => {
    let synonyms = compiled.get(language);
    if (synonyms === undefined) compiled.set(language, (synonyms = new Synonyms(groups, language)));
    return synonyms;
  };
});

/**
 * What runs of query words also mean by the synonyms of a tuning, in the forms of each of its languages. The synonyms
 * are compiled once for one and the same list, whatever else two tunings differ in.
 */
export function synonymSpans(tuning: Tuning, query: readonly (string | null)[]): Span[] {
  const compiled = compiledOf(tuning.synonyms);
  if (!tuning.stems) return compiled(null).spans(query);
  const languages = languagesOf(tuning);
  const spans = languages.flatMap((language) => compiled(language).spans(query));
  if (languages.length === 1) return spans;
  return [...new Map(spans.map((span) => [JSON.stringify(span), span])).values()];
}
