import type { FacetKind, FieldProposal } from '@yucca/contract';
import { fieldWords } from '../text/field-words.ts';
import { isHalfOfPosition } from '../rules/propose-positions.ts';
import { isMadeKey } from '../text/made-key.ts';
import type { NameEvidence } from '../understand/naming.ts';
import { evennessOf, facetWorth } from './facet-worth.ts';
import type { FieldFacts } from './field-facts.ts';
import type { Looked } from './warnings.ts';

/** More distinct values than this make a list nobody reads, unless each comes back often. */
const FACET_VALUES = 300;

const nearly = (share: number): boolean => share >= 0.9;

/** Texts that no visitor reads or types: checksums, addresses, media ids. */
function isNoise(facts: FieldFacts): boolean {
  return nearly(facts.share('hash')) || nearly(facts.share('url')) || nearly(facts.share('picture'));
}

function isDate(facts: FieldFacts): boolean {
  return facts.dates !== null && nearly(facts.share('isoDate'));
}

function meanLetters(facts: FieldFacts): number {
  return facts.texts.count === 0 ? 0 : facts.texts.letters / facts.texts.count;
}

/** What a field's texts tell of whether they name the records. */
export function nameEvidence({ facts, records }: Looked): NameEvidence {
  return {
    path: facts.path,
    coverage: facts.lists > 0 || records === 0 ? 0 : facts.texts.count / records,
    // Numbers among them are values too; those name nothing.
    different: Math.min(1, facts.distinct.size / Math.max(1, facts.values)),
    letters: meanLetters(facts),
    words: facts.meanWords,
    machine: isNoise(facts) || isDate(facts) ? 1 : Math.max(facts.share('number'), facts.share('date')),
    capital: facts.share('name'),
    code: facts.share('code'),
  };
}

/** Names of fields whose values people type as they are: a year, an airport's letters, a part's number. */
const TYPED = new Set([
  ...['year', 'code', 'no', 'number', 'nr', 'sku', 'isbn', 'ean', 'gtin', 'zip', 'postcode', 'plz', 'symbol', 'model'],
  ...['iata', 'icao', 'iso', 'abbreviation', 'abbr', 'acronym', 'ticker', 'reference', 'ref', 'serial', 'part'],
]);
const isTyped = (path: string): boolean => TYPED.has(fieldWords(path).at(-1) ?? '');

function search({ facts, keyField }: Looked): FieldProposal['search'] {
  if (facts.values === 0) return null;
  const texts = facts.texts.count;
  if (facts.path === keyField) {
    if (facts.textExamples.filter(isMadeKey).length > facts.textExamples.length / 2) return null;
    const typeable = facts.textExamples.filter((text) => /^\S{1,40}$/.test(text)).length;
    return typeable > 0 && typeable >= facts.textExamples.length / 2
      ? { weight: isTyped(facts.path) && !isNoise(facts) ? 6 : 1, reason: 'people paste keys' }
      : null;
  }
  if (nearly(facts.share('boolean')) || isNoise(facts) || isDate(facts)) return null;
  const isNumber = texts < facts.values * 0.5 || nearly(facts.share('number'));
  if (isNumber) return isTyped(facts.path) && facts.lists === 0 ? { weight: 2, reason: 'people type it' } : null;
  const mean = meanLetters(facts);
  const distinct = facts.distinct.size / Math.max(1, texts);
  if (facts.share('code') > 0.9 && (isTyped(facts.path) || distinct > 0.6))
    return { weight: 6, reason: 'codes that people type' };
  if (mean > 160) return { weight: 1, reason: `long text, ${Math.round(facts.meanWords)} words on average` };
  if (mean > 45) return { weight: 2, reason: 'a sentence or two' };
  if (distinct > 0.6) return { weight: 6, reason: 'short and different in most records' };
  return { weight: 3, reason: 'short words that people know' };
}

function facet(looked: Looked): FieldProposal['facet'] {
  const { facts, records, keyField } = looked;
  if (facts.path === keyField || facts.records < records * 0.2 || facts.values === 0) return null;
  if (isIdentifier(facts) || isHalfOfPosition(facts.path)) return null;
  if (isDate(facts)) return { kind: 'dates', reason: `dates from ${facts.dates!.from} to ${facts.dates!.to}` };
  if (facts.numbers.count >= facts.values * 0.9 && facts.numbers.count > 0) {
    if (facts.distinct.size <= 12 && facts.lists > 0) return values('few numbers, several a record');
    return facts.distinct.size > 5 ? { kind: 'numbers', reason: 'numbers: a range' } : values('a few numbers');
  }
  if (isNoise(facts) || facts.share('html') > 0.3 || meanLetters(facts) > 60) return null;
  if (facts.share('levels') > 0.5)
    return { kind: 'tree', reason: 'levels inside each value', separator: separatorIn(facts) };
  const distinct = facts.distinct.size;
  if (distinct < 2 || distinct > FACET_VALUES) return null;
  return facts.values / distinct >= 3 ? values(`${distinct} values that come back`) : null;
}

/** Numbers and texts that only tell records, or things elsewhere, apart. */
function isIdentifier(facts: FieldFacts): boolean {
  const last = fieldWords(facts.path).at(-1) ?? '';
  if (!/^(id|uuid|guid|key|hash|sha|checksum|isbn|ean|gtin|sku|index|no|nr)$/.test(last)) return false;
  // Few of them, each often, are kinds of something: their labels may stand beside them.
  return facts.distinct.size > facts.values / 3;
}

/** How useful a proposed facet is, 0 to 1; see `facetWorth`. */
export function worthOfFacet({ facts, records }: Looked, kind: FacetKind): number {
  const coverage = records === 0 ? 0 : facts.records / records;
  // A range or a calendar parts as finely as its visitor likes.
  if (kind === 'numbers' || kind === 'dates')
    return coverage * (BUSINESS.test(facts.path) || MONEY.test(facts.path) ? 0.9 : 0.45);
  const distinct = facts.distinct.size;
  const counts = facts.distinct.top(50).map(({ count }) => count);
  return facetWorth(coverage, distinct, evennessOf(counts, facts.values, distinct));
}

/** Numbers that nearly every visitor narrows by. */
const MONEY = /price|cost|amount|salary|budget|preis|prix/i;

const values = (reason: string): { kind: FacetKind; reason: string } => ({ kind: 'values', reason });

function separatorIn(facts: FieldFacts): string {
  const found = / (>|›|»|\/|::) /.exec(facts.textExamples.find((text) => / (>|›|»|\/|::) /.test(text)) ?? '');
  return found?.[0] ?? ' > ';
}

/** Names of numbers that say how much a record matters to its owner. */
const BUSINESS = /sale|sold|order|popular|view|visit|rating|score|rank|stock|margin|download/i;

function signal({ facts }: Looked): FieldProposal['signal'] {
  if (
    !BUSINESS.test(facts.path) ||
    facts.lists > 0 ||
    facts.numbers.count < facts.values * 0.9 ||
    facts.numbers.count === 0
  )
    return null;
  const mean = facts.numbers.sum / facts.numbers.count;
  const long = facts.numbers.max > 8 * Math.max(1, mean);
  return { shape: long ? 'log' : 'linear', reason: 'its name says it matters to the business' };
}

function sort({ facts }: Looked): FieldProposal['sort'] {
  if (facts.lists > 0 || isIdentifier(facts) || isHalfOfPosition(facts.path)) return null;
  if (isDate(facts)) return { reason: 'a date: newest first' };
  const number = facts.numbers.count >= facts.values * 0.9 && facts.numbers.count > 0;
  return number && facts.distinct.size > 5 ? { reason: 'a number: low to high, high to low' } : null;
}

function show({ facts }: Looked): FieldProposal['show'] {
  const checksum = nearly(facts.share('hash')) && meanLetters(facts) >= 12;
  return checksum ? { shown: false, reason: 'no page shows a checksum' } : { shown: true, reason: '' };
}

function snippet({ facts }: Looked): FieldProposal['snippet'] {
  return meanLetters(facts) > 160 && !isNoise(facts)
    ? { reason: 'too long for a result; its best piece is shown' }
    : null;
}

/** What a field is good for, as far as its values tell. */
export function proposeRoles(looked: Looked): FieldProposal {
  const { facts } = looked;
  return {
    search: search(looked),
    facet: facet(looked),
    sort: sort(looked),
    signal: signal(looked),
    show: show(looked),
    snippet: snippet(looked),
    html: facts.share('html') > 0.3,
    language: null,
    geo: null,
  };
}
