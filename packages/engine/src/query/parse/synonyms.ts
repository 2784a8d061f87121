import type { SynonymGroup, Tuning } from '@yucca/contract';
import { memoByObject } from '../../memo/by-object.ts';
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

  constructor({ synonyms, stems, language }: Tuning) {
    this.#form = (stems ? stemmerFor(language) : null) ?? ((word) => word);
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

/** By the language whose stems are taken for one word; none where they are not. */
const compiledOf = memoByObject<readonly SynonymGroup[], Map<string, Synonyms>>(() => new Map());

/** The compiled synonyms of a tuning. Compiled once for one and the same list, whatever else two tunings differ in. */
export function synonymsOf(tuning: Tuning): Synonyms {
  const { synonyms: groups, stems, language } = tuning;
  const compiled = compiledOf(groups);
  const forms = stems ? language : '';
  let synonyms = compiled.get(forms);
  if (synonyms === undefined) compiled.set(forms, (synonyms = new Synonyms(tuning)));
  return synonyms;
}
