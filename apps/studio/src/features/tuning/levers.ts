import type { SynonymGroup, TuningDocument } from '@yucca/contract';

type Typos = NonNullable<TuningDocument['typos']>;
type Words = NonNullable<TuningDocument['words']>;
type Signal = NonNullable<TuningDocument['signals']>[number];

export const withWords = (document: TuningDocument, change: Partial<Words>): TuningDocument => ({
  ...document,
  words: { ...document.words, ...change },
});

/** Changes the typo rules; two typos are never allowed in shorter words than one. */
export function withTypos(document: TuningDocument, change: Partial<Typos>): TuningDocument {
  const typos = { ...document.typos, ...change };
  const { oneFrom = 4, twoFrom = 8 } = typos;
  if (twoFrom < oneFrom) {
    if (change.twoFrom === undefined) typos.twoFrom = oneFrom;
    else typos.oneFrom = twoFrom;
  }
  return { ...document, typos };
}

export function withSignalPart(document: TuningDocument, field: string, change: Partial<Signal>): TuningDocument {
  return {
    ...document,
    signals: (document.signals ?? []).map((one) => (one.field === field ? { ...one, ...change } : one)),
  };
}

export function withFieldWeight(document: TuningDocument, field: string, weight: number): TuningDocument {
  return {
    ...document,
    search: (document.search ?? []).map((one) => (one.field === field ? { ...one, weight } : one)),
  };
}

/** Words with commas or new lines between them, each once. */
export function wordList(text: string): string[] {
  const words = text
    .split(/[,\n]/)
    .map((word) => word.trim())
    .filter((word) => word !== '');
  return [...new Set(words)];
}

export type ParsedSynonym = { ok: true; group: SynonymGroup } | { ok: false; problem: string };

/** Reads a synonym as a person writes it: `snake plant = sansevieria`, or one way, `succulent > agave, aloe`. */
export function readSynonym(text: string): ParsedSynonym {
  const oneWay = text.split('>');
  if (oneWay.length > 2) return { ok: false, problem: 'One “>” only: what is typed > what it finds as well.' };
  if (oneWay.length === 2) {
    const [from, to] = [wordList(oneWay[0]!), wordList(oneWay[1]!)];
    if (from.length === 0 || to.length === 0) return { ok: false, problem: 'Words on both sides of “>”.' };
    return { ok: true, group: { kind: 'oneWay', from, to } };
  }
  const words = [...new Set(text.split('=').flatMap(wordList))];
  if (words.length < 2) return { ok: false, problem: 'Two or more, with “=” between them: houseplant = indoor plant.' };
  return { ok: true, group: { kind: 'same', words } };
}

/** A synonym as readSynonym reads it. */
export function printSynonym(group: SynonymGroup): string {
  return group.kind === 'same' ? group.words.join(' = ') : `${group.from.join(', ')} > ${group.to.join(', ')}`;
}
