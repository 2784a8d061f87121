import type { RecordJson, Tuning } from '@yucca/contract';
import {
  distance,
  endOfLetters,
  goesOn,
  isRun,
  otherKana,
  pairs,
  placedTokens,
  stem,
  tokens,
  whole,
  wordsInPlace,
  type PlacedToken,
} from './text.ts';

/** A word of the query, as the reference understands it. */
export interface Asked {
  text: string;
  prefix: boolean;
  phrase: string[] | null;
  optional: boolean;
  /** Other words, or several words together, that it may also be. */
  others: { trust: number; words: string[]; prefix: boolean; language?: string }[];
  /** Its typos would let in more strangers than there are records with its letters. */
  noTypos?: boolean;
  /** Compounds that it begins or ends. */
  compounds: { whole: string; isEnd: boolean; language: string }[];
}

/** One string of a searched field. */
export interface Text {
  field: string;
  language: string;
  /** Number of the field, by name. */
  number: number;
  weight: number;
  pointer: string;
  /** Place of its first word within the field. */
  first: number;
  fieldWords: number;
  source: string;
  list: PlacedToken[];
}

export function valuesAt(value: unknown, path: string[], pointer = ''): { pointer: string; value: unknown }[] {
  if (Array.isArray(value)) return value.flatMap((item, i) => valuesAt(item, path, `${pointer}/${i}`));
  if (path.length === 0) return ['string', 'number', 'boolean'].includes(typeof value) ? [{ pointer, value }] : [];
  if (value === null || typeof value !== 'object') return [];
  const [head, ...rest] = path;
  return head! in value ? valuesAt((value as RecordJson)[head!], rest, `${pointer}/${head}`) : [];
}

/** The language of a field, or else the one that its record names, or else the one of all the others. */
function languageOf(record: RecordJson, field: string, { language, otherLanguages, languageField }: Tuning): string {
  const ofField = otherLanguages.find(({ fields }) => fields.includes(field));
  if (ofField !== undefined) return ofField.language;
  const told = languageField === null ? '' : String(record[languageField] ?? '').slice(0, 2);
  return otherLanguages.find((other) => other.language === told.toLowerCase())?.language ?? language;
}

const allLanguages = ({ language, otherLanguages }: Tuning): string[] => [
  ...new Set([language, ...otherLanguages.map((other) => other.language)]),
];

export function textsOf(record: RecordJson, tuning: Tuning): Text[] {
  const heaviest = Math.max(...tuning.search.map(({ weight }) => weight));
  const names = tuning.search.map(({ field }) => field).sort();
  return tuning.search.flatMap(({ field, weight }) => {
    const strings = valuesAt(record, field.split('.')).map(({ pointer, value }) => ({ pointer, text: String(value) }));
    const fieldWords = Math.min(
      255,
      strings.reduce((sum, { text }) => sum + wordsInPlace(text).length, 0),
    );
    let first = 0;
    return strings.map(({ pointer, text }): Text => {
      const own = first;
      const count = wordsInPlace(text).length;
      if (count > 0) first += count + 8;
      return {
        field,
        language: languageOf(record, field, tuning),
        number: names.indexOf(field),
        weight: weight / heaviest,
        pointer,
        first: own,
        fieldWords,
        source: text,
        list: placedTokens(text),
      };
    });
  });
}

/** Splits a query and finds what else its words may be. `known` = every word that stands in some record. */
export function understand(
  q: string,
  tuning: Tuning,
  known: ReadonlySet<string>,
): { asked: Asked[]; excluded: string[][] } {
  const excluded: string[][] = [];
  const asked: Asked[] = [];
  // The properties quote and exclude whole words only, parted by spaces.
  for (const match of q.matchAll(/(-?)"([^"]*)"|(\S+)/g)) {
    const [, minus, quoted, plain] = match;
    const phrase = phraseOf(quoted ?? plain!);
    if (phrase.length === 0) continue;
    if (minus === '-' || /^-[\p{L}\p{N}]/u.test(plain ?? '')) excluded.push(phrase);
    else if (quoted !== undefined) asked.push(plainWord(phrase.join(' '), false, phrase, false));
    else {
      for (const { text, start, end } of tokens(plain!)) {
        const last = goesOn(q.slice(match.index + end));
        const prefix = tuning.words.prefix === 'all' || (tuning.words.prefix === 'last' && last);
        const word = plainWord(text, prefix, null, tuning.stopWords.includes(text));
        if (isRun(plain!.slice(start, end))) addWritings(word, plain!.slice(start, end));
        else if (allLanguages(tuning).includes('de')) addUmlauts(word, plain!.slice(start, end));
        asked.push(word);
      }
    }
  }
  if (asked.every(({ optional }) => optional)) asked.forEach((word) => (word.optional = false));
  addSynonyms(asked, tuning);
  addJoined(asked);
  addSplits(asked, known);
  for (const language of tuning.compounds ? allLanguages(tuning) : [])
    if (/^(da|de|fi|nb|nl|nn|no|sv)\b/.test(language)) addCompounds(asked, known, language);
  return { asked, excluded };
}

/** A run without spaces is also its pairs, wherever they stand, and the same in the other kana. */
function addWritings(word: Asked, run: string): void {
  const { prefix } = word;
  const letters = pairs(run);
  const isOne = placedTokens(run).filter(({ main }) => main).length === 1;
  if (isOne) word.prefix = true;
  else if (letters.length > 1) word.others.push({ trust: 0.97, words: letters, prefix: false });
  const other = pairs(otherKana(run.normalize('NFKC')));
  if (other.join() !== letters.join()) word.others.push({ trust: 0.9, words: other, prefix: prefix || isOne });
}

/** German: `ue` is `ü` where a keyboard lacks it, and the reverse. */
function addUmlauts(word: Asked, typed: string): void {
  const written = typed.toLowerCase().replace(/[äöü]/g, (letter) => ({ ä: 'ae', ö: 'oe', ü: 'ue' })[letter]!);
  const out = wordsInPlace(written)[0]?.text ?? '';
  const back = word.text.replaceAll('ae', 'a').replaceAll('oe', 'o').replaceAll('ue', 'u');
  for (const other of new Set([out, back]))
    if (other !== word.text) word.others.push({ trust: 0.9, words: [other], prefix: word.prefix, language: 'de' });
}

/** The words of a phrase: the last letter of a run at its end may begin another pair in what holds it. */
function phraseOf(text: string): string[] {
  const words = wordsInPlace(text);
  const [before, last] = words.slice(-2);
  return words.slice(0, before && last && before.end === last.end ? -1 : undefined).map((word) => word.text);
}

const plainWord = (text: string, prefix: boolean, phrase: string[] | null, optional: boolean): Asked => ({
  text,
  prefix,
  phrase,
  optional,
  others: [],
  compounds: [],
});

function addSynonyms(asked: Asked[], tuning: Tuning): void {
  const languages = tuning.stems ? allLanguages(tuning) : ['none'];
  const rules = tuning.synonyms.flatMap((group) =>
    group.kind === 'oneWay'
      ? group.from.flatMap((from) => group.to.map((to) => [from, to] as const))
      : group.words.flatMap((from, i) => group.words.filter((_, j) => j !== i).map((to) => [from, to] as const)),
  );
  for (const [fromText, toText] of rules) {
    const from = tokens(fromText).map((word) => word.text);
    const to = phraseOf(toText);
    if (phraseOf(fromText).join(' ') === to.join(' ')) continue;
    for (let at = 0; at + from.length <= asked.length; at++) {
      const span = asked.slice(at, at + from.length);
      const isMeant = (language: string): boolean =>
        span.every(({ text, phrase }, i) => phrase === null && stem(text, language) === stem(from[i]!, language));
      if (!languages.some(isMeant)) continue;
      for (const word of span) word.others.push({ trust: 0.92, words: to, prefix: false });
    }
  }
}

function addJoined(asked: Asked[]): void {
  for (let from = 0; from < asked.length; from++) {
    for (const to of [from + 1, from + 2]) {
      const span = asked.slice(from, to + 1);
      if (to >= asked.length || span.some(({ phrase }) => phrase !== null)) break;
      const words = [span.map(({ text }) => text).join('')];
      for (const word of span) word.others.push({ trust: 0.97, words, prefix: asked[to]!.prefix });
    }
  }
}

function addSplits(asked: Asked[], known: ReadonlySet<string>): void {
  for (const word of asked) {
    if (word.phrase !== null) continue;
    const { text } = word;
    const parts = text.match(/\d+|\D+/g) ?? [];
    if (parts.length > 1 && parts.length <= 4) word.others.push({ trust: 0.95, words: parts, prefix: false });
    if (known.has(text)) continue;
    for (let at = 2; at <= text.length - 2; at++) {
      word.others.push({ trust: 0.95, words: [text.slice(0, at), text.slice(at)], prefix: false });
    }
  }
}

const LINKS = ['', 's', 'es', 'n', 'en', 'ens', 'er', 'e'];

/** Compounds are words run together, each but the last with a link or none behind it; three at most here. */
function addCompounds(asked: Asked[], known: ReadonlySet<string>, language: string): void {
  const words = [...known].filter((word) => word.length >= 3);
  const linked = words.flatMap((word) => LINKS.map((link) => word + link));
  const firsts = new Set(linked);
  const isBeginning = (text: string): boolean =>
    firsts.has(text) || linked.some((first) => text.startsWith(first) && firsts.has(text.slice(first.length)));
  const isEnding = (text: string): boolean =>
    LINKS.some((link) => {
      const rest = text.slice(link.length);
      if (!text.startsWith(link)) return false;
      return words.some((word) => rest === word || (rest.endsWith(word) && firsts.has(rest.slice(0, -word.length))));
    });
  for (const word of asked) {
    const { text, prefix } = word;
    if (word.phrase !== null || !/^\p{L}{4,}$/u.test(text)) continue;
    for (const whole of known) {
      if (whole === text || !/^\p{L}{7,}$/u.test(whole)) continue;
      if (whole.endsWith(text) && isBeginning(whole.slice(0, -text.length)))
        word.compounds.push({ whole, isEnd: true, language });
      if (!prefix && whole.startsWith(text) && isEnding(whole.slice(text.length)))
        word.compounds.push({ whole, isEnd: false, language });
    }
  }
}

/** How one word of the query is found in one record. */
export interface Found {
  typos: number;
  points: number;
  place: number;
  marks: { pointer: string; start: number; end: number }[];
}

interface Way {
  typos: number;
  form: number;
  /** > 0: so many letters of a longer word were typed. */
  letters: number;
  /** They are its last ones. */
  isEnd?: boolean;
}

function waysOf(word: Asked, written: string, tuning: Tuning, exactField: boolean, language: string): Way[] {
  const ways: Way[] = [];
  const begins = (typed: string, trust: number): number =>
    trust * (0.6 + 0.3 * Math.min(1, typed.length / written.length));
  for (const { trust, words, prefix, language: only = language } of word.others) {
    if (words.length > 1 || only !== language) continue;
    if (words[0] === written) ways.push({ typos: 0, form: trust, letters: 0 });
    if (prefix && written.startsWith(words[0]!)) {
      ways.push({ typos: 0, form: begins(words[0]!, trust), letters: words[0]!.length });
    }
  }
  if (word.phrase !== null) {
    if (word.phrase.length === 1 && word.text === written) ways.push({ typos: 0, form: 1, letters: 0 });
    return ways;
  }
  const { text, prefix } = word;
  for (const { whole: compound, isEnd, language: only } of word.compounds)
    if (compound === written && only === language)
      ways.push({ typos: 0, form: begins(text, 1), letters: text.length, isEnd });
  if (text === written) ways.push({ typos: 0, form: 1, letters: 0 });
  else if (tuning.stems && stem(text, language) === stem(written, language))
    ways.push({ typos: 0, form: 0.9, letters: 0 });
  if (prefix && written.startsWith(text)) ways.push({ typos: 0, form: begins(text, 1), letters: text.length });
  const { typos: rules } = tuning;
  let allowed = text.length >= rules.twoFrom ? 2 : text.length >= rules.oneFrom ? 1 : 0;
  if (word.noTypos || !rules.enabled || exactField || rules.exactWords.includes(text)) allowed = 0;
  if (!rules.numbers && /[0-9]/.test(text)) allowed = 0;
  if (!rules.firstLetter && text[0] !== written[0]) allowed = 0;
  const trust = [1, 0.7, 0.5];
  const whole = distance(text, written);
  if (whole > 0 && whole <= allowed) ways.push({ typos: whole, form: trust[whole]!, letters: 0 });
  if (prefix) {
    let least = Infinity;
    for (let n = 1; n <= written.length; n++) least = Math.min(least, distance(text, written.slice(0, n)));
    if (least > 0 && least <= allowed) ways.push({ typos: least, form: begins(text, trust[least]!), letters: 0 });
  }
  return ways;
}

export function findWord(word: Asked, texts: Text[], tuning: Tuning, queryWords: number): Found | null {
  let best: Omit<Found, 'marks'> | null = null;
  const marks: { typos: number; pointer: string; start: number; end: number }[] = [];
  const offer = (typos: number, form: number, { number, weight, fieldWords }: Text, position: number): void => {
    const held = Math.min(1023, position);
    const value =
      weight * form * (0.9 + 0.1 / (1 + held)) * (0.8 + 0.2 * Math.min(1, queryWords / Math.max(1, fieldWords)));
    const points = Math.floor(value * 65535 + 0.5);
    const place = number * 1024 + held;
    const better =
      best === null ||
      typos < best.typos ||
      (typos === best.typos && (points > best.points || (points === best.points && place < best.place)));
    if (better) best = { typos, points, place };
  };
  for (const text of texts) {
    for (const token of text.list) {
      const isExact = tuning.typos.exactFields.includes(text.field);
      const ways = waysOf(word, token.text, tuning, isExact, text.language);
      const least = Math.min(...ways.map(({ typos }) => typos));
      const likeliest = ways
        .filter(({ typos }) => typos === least)
        .reduce<Way | null>((top, way) => (top === null || way.form > top.form ? way : top), null);
      if (likeliest === null) continue;
      offer(likeliest.typos, likeliest.form, text, text.first + token.place);
      const length = token.text.length;
      const start = likeliest.isEnd
        ? token.start + endOfLetters(text.source.slice(token.start, token.end), length - likeliest.letters)
        : token.start;
      const end =
        !likeliest.isEnd && likeliest.letters > 0 && likeliest.typos === 0
          ? token.start + endOfLetters(text.source.slice(token.start, token.end), likeliest.letters)
          : token.end;
      const [from, to] = whole(text.source, [start, end]);
      marks.push({ typos: likeliest.typos, pointer: text.pointer, start: from, end: to });
    }
  }
  const sequences = [
    ...(word.phrase !== null && word.phrase.length > 1 ? [{ trust: 1, words: word.phrase }] : []),
    ...word.others.filter(({ words }) => words.length > 1),
  ];
  for (const { trust, words } of sequences) {
    const runs = texts.flatMap((text) => together(text, words).map((run) => ({ text, run })));
    if (runs.length === 0) continue;
    // The first place counts, fields in the order of their names.
    const order = ({ text, run }: (typeof runs)[number]): number =>
      text.number * 1024 + Math.min(1023, text.first + run[0]!.place);
    const first = runs.reduce((a, b) => (order(b) < order(a) ? b : a));
    offer(0, trust, first.text, first.text.first + first.run[0]!.place);
    for (const { text, run } of runs) {
      for (const token of run) {
        const [start, end] = whole(text.source, [token.start, token.end]);
        marks.push({ typos: 0, pointer: text.pointer, start, end });
      }
    }
  }
  if (best === null) return null;
  const { typos } = best as Found;
  return { ...(best as Found), marks: marks.filter((mark) => mark.typos === typos) };
}

/** 0 = a value of a code is the very query, 1 = one of another of the heavier fields, 2 = none. */
export function wholeClass(texts: Text[], q: string, { typos }: Tuning, keyFields: string[]): number {
  const plain = q.replace(/-"[^"]*"|(?<!\S)-[\p{L}\p{N}]\S*/gu, ' ').replaceAll('"', ' ');
  const typed = wordsInPlace(plain).map(({ text }) => text);
  if (typed.length === 0) return 2;
  const isWhole = ({ source, list }: Text): boolean => {
    const held = wordsInPlace(source).map(({ text }) => text);
    const alike = held.join(' ') === typed.join(' ');
    const run = typed.join('');
    return (
      alike ||
      (/[0-9]/.test(run) && held.join('') === run && list.some(({ text, place }) => place === 0 && text === run))
    );
  };
  const classOf = ({ field, weight }: Text): number =>
    typos.exactFields.includes(field) || keyFields.includes(field) ? 0 : weight >= 0.5 ? 1 : 2;
  return Math.min(2, ...texts.filter(isWhole).map(classOf));
}

export function together(text: Text, words: string[]): PlacedToken[][] {
  return text.list
    .filter((token) => token.text === words[0])
    .map((first) =>
      words.map((word, i) => text.list.find((token) => token.text === word && token.place === first.place + i)),
    )
    .filter((run): run is PlacedToken[] => run.every((token) => token !== undefined));
}
