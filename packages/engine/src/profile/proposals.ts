import type { FacetKind, FieldProposal } from '@yucca/contract';
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

function search({ facts, keyField }: Looked): FieldProposal['search'] {
  if (facts.texts.count < facts.values * 0.5 || isNoise(facts) || isDate(facts)) return null;
  if (nearly(facts.share('boolean')) || nearly(facts.share('number'))) return null;
  if (facts.path === keyField)
    return /^[\w-]{1,40}$/.test(facts.textExamples[0] ?? '') ? { weight: 1, reason: 'people paste keys' } : null;
  const mean = meanLetters(facts);
  const distinct = facts.distinct.size / Math.max(1, facts.texts.count);
  if (/(^|[._-])(name|title|headline)s?$/i.test(facts.path) && facts.lists === 0)
    return { weight: 10, reason: 'it names the record' };
  if (mean > 160) return { weight: 1, reason: `long text, ${Math.round(facts.meanWords)} words on average` };
  if (mean > 45) return { weight: 2, reason: 'a sentence or two' };
  if (distinct > 0.6) return { weight: 6, reason: 'short and different in most records' };
  return { weight: 3, reason: 'short words that people know' };
}

function facet(looked: Looked): FieldProposal['facet'] {
  const { facts, records, keyField } = looked;
  if (facts.path === keyField || facts.records < records * 0.2 || facts.values === 0) return null;
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
  if (facts.lists > 0) return null;
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
    geo: null,
  };
}
