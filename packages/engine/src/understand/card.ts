import type { Card, RecordJson } from '@yucca/contract';
import { eachLeaf } from '@yucca/contract';
import { fieldWords } from '../text/field-words.ts';
import { evennessOf, facetWorth } from '../profile/facet-worth.ts';
import { SHAPES } from '../profile/shapes.ts';
import { beginsAsName, isCode, nameRank } from './naming.ts';

interface FieldFacts {
  field: string;
  index: number;
  strings: number;
  numbers: number;
  records: number;
  letters: number;
  words: number;
  pictures: number;
  links: number;
  digits: number;
  /** Texts that begin as names do, and those that are codes. */
  capitals: number;
  codes: number;
  values: Map<string, number>;
}

const PICTURE = /^(https?:\/\/|\/|data:image\/)\S*\.(svg|png|jpe?g|gif|webp|avif)([?#]\S*)?$|^data:image\//i;
const LINK = /^([a-z][a-z0-9+.-]*:\/\/|\/)\S+$/i;
const DATE = /^\d{4}-\d{2}(-\d{2})?([T ]\S*)?$/;

/** No address is longer, but for pictures that are their own address (`data:`). */
const LONGEST_ADDRESS = 2_048;

/** Degrees on the earth say nothing on a card. */
const POSITION = /(^|[._-])(coordinates?|lat|latitude|lng|lon|longitude)$/i;

/** Distinct values counted a field: enough to tell a facet from a name. */
const VALUES_KEPT = 400;

function factsOf(sample: readonly RecordJson[]): FieldFacts[] {
  const facts = new Map<string, FieldFacts>();
  for (const record of sample) {
    const seen = new Set<string>();
    eachLeaf(record, (path, value) => {
      if (value === null || value === '') return;
      let fact = facts.get(path);
      if (!fact) {
        fact = {
          field: path,
          index: facts.size,
          strings: 0,
          numbers: 0,
          records: 0,
          letters: 0,
          words: 0,
          pictures: 0,
          links: 0,
          digits: 0,
          capitals: 0,
          codes: 0,
          values: new Map(),
        };
        facts.set(path, fact);
      }
      if (!seen.has(path)) fact.records++;
      seen.add(path);
      const text = String(value);
      if (typeof value === 'number') fact.numbers++;
      else if (typeof value === 'string') addString(fact, text);
      if (fact.values.size < VALUES_KEPT || fact.values.has(text))
        fact.values.set(text, (fact.values.get(text) ?? 0) + 1);
    });
  }
  return [...facts.values()];
}

function addString(fact: FieldFacts, text: string): void {
  fact.strings++;
  fact.letters += text.length;
  fact.words += text.split(/\s+/).length;
  if (beginsAsName(text)) fact.capitals++;
  if (isCode(text)) fact.codes++;
  // Addresses are short; on long texts these patterns would take time that grows with the square of the length.
  const short = text.length <= LONGEST_ADDRESS;
  if (text.startsWith('data:image/') || (short && PICTURE.test(text))) fact.pictures++;
  else if (short && LINK.test(text)) fact.links++;
  if (/^[\d\s.,:+-]+$/.test(text) || DATE.test(text) || (short && SHAPES.hash(text))) fact.digits++;
}

const isProse = (fact: FieldFacts): boolean =>
  fact.strings > 0 && fact.pictures + fact.links + fact.digits < fact.strings / 2;

/** The field of the best rank; the earlier one where two are equal. `undefined` ranks leave a field out. */
function best(facts: FieldFacts[], rank: (fact: FieldFacts) => number | undefined): string | null {
  let found: { field: string; rank: number } | null = null;
  for (const fact of facts) {
    const value = rank(fact);
    if (value !== undefined && (found === null || value > found.rank)) found = { field: fact.field, rank: value };
  }
  return found?.field ?? null;
}

/**
 * Guesses which fields make a result card: a title that names the record, a picture, a text, a number and a word of
 * detail. Known names count most; where there is none, the shape of the values decides.
 */
export function guessCard(sample: readonly RecordJson[], keyField: string): Card {
  const facts = factsOf(sample);
  const often = (fact: FieldFacts): boolean => fact.records >= sample.length / 2;
  const title = best(facts, (fact) => {
    if (!isProse(fact)) return undefined;
    const { strings } = fact;
    const rank = nameRank({
      path: fact.field,
      // Numbers among them are values too; those name nothing.
      coverage: Math.min(fact.records, strings) / sample.length,
      different: Math.min(1, fact.values.size / Math.min(strings + fact.numbers, VALUES_KEPT)),
      letters: fact.letters / strings,
      words: fact.words / strings,
      machine: (fact.links + fact.pictures + fact.digits) / strings,
      capital: fact.capitals / strings,
      code: fact.codes / strings,
    });
    return rank === null || (fact.field === keyField && rank < 10) ? undefined : rank - fact.index / 100;
  });
  const rest = facts.filter(({ field }) => field !== title && field !== keyField);
  const picture = best(rest, (fact) => {
    if (fact.pictures > fact.strings / 2) return 1;
    return /(^|[._-])(image|picture|photo|thumbnail|cover)(_?url)?$/i.test(fact.field) && fact.links > fact.strings / 2
      ? 0.5
      : undefined;
  });
  const text = best(rest, (fact) => {
    if (!isProse(fact) || fact.records < sample.length / 4) return undefined;
    const mean = fact.letters / fact.strings;
    if (mean < 30) return undefined;
    return (/descr|summary|abstract|excerpt|intro|about/i.test(fact.field) ? 5 : 0) + Math.min(mean, 400) / 100;
  });
  const number = best(rest, (fact) => {
    if (fact.numbers < sample.length / 2 || POSITION.test(fact.field)) return undefined;
    const rank = ['price', 'cost', 'amount', 'rating', 'score', 'year', 'population', 'size'].findIndex((name) =>
      fact.field.toLowerCase().includes(name),
    );
    return rank === -1 ? -1 - fact.index / 100 : 10 - rank;
  });
  const detail = best(rest, (fact) => {
    if (!isProse(fact) || !often(fact) || fact.field === text || isBroken(fact, sample.length)) return undefined;
    const mean = fact.letters / fact.strings;
    if (mean > 60 || mean < 2 || fact.values.size < 2) return undefined;
    const named = /categor|type|kind|genre|brand|author|botanical|subtitle|section|city|region/i.test(fact.field)
      ? 3
      : 0;
    return named - fact.field.split('.').length - fact.index / 100;
  });
  return { title, picture, text, number, detail };
}

const isBroken = (fact: FieldFacts, records: number): boolean =>
  fact.numbers > fact.strings || fact.records < records / 2;

/** Facets that are offered unasked. */
const FACETS = 5;
/** What is worth less with each level below the record: it says something of a part of it. */
const DEEPER = 0.7;

/**
 * Guesses a few fields worth offering as facets: short values that repeat, neither nearly all alike nor nearly all
 * different, in at least half of the records; those that part the records best come first.
 */
export function guessFacets(sample: readonly RecordJson[], keyField: string, most = FACETS): string[] {
  return factsOf(sample)
    .flatMap((fact) => {
      const values = [...fact.values.values()].reduce((sum, count) => sum + count, 0);
      if (fact.field === keyField || fact.records < sample.length / 2 || fact.numbers > 0) return [];
      if (/^(id|uuid|guid|key|sha|hash)$/.test(fieldWords(fact.field).at(-1) ?? '')) return [];
      if (fact.links + fact.pictures > 0 || (fact.strings > 0 && fact.letters / fact.strings > 40)) return [];
      if (fact.strings > 0 && fact.digits > fact.strings / 2) return [];
      const distinct = fact.values.size;
      const commonest = Math.max(...fact.values.values());
      if (distinct < 2 || distinct > 60 || values / distinct < 3 || commonest >= values * 0.97) return [];
      const reach = (fact.records / sample.length) * DEEPER ** (fact.field.split('.').length - 1);
      return [{ fact, worth: facetWorth(reach, distinct, evennessOf([...fact.values.values()], values, distinct)) }];
    })
    .sort((a, b) => b.worth - a.worth || a.fact.index - b.fact.index)
    .slice(0, most)
    .sort((a, b) => a.fact.index - b.fact.index)
    .map(({ fact }) => fact.field);
}
