import type { SearchResult, Why } from '@yucca/contract';

/** What decides between two results: the first of the numbers, in the order in which they count, that differs. */
export type Decision =
  | { by: 'pin' }
  | { by: 'words' | 'typos'; upper: number; lower: number }
  | { by: 'whole'; field: string; isCode: boolean }
  | { by: 'score'; upper: number; lower: number; mostly: 'text' | 'signals' }
  | { by: 'order' };

/** Numbers this close are the same when rounded to what is shown. */
const SAME = 1e-9;

/** Why `upper` stands above `lower`; null when either came without its numbers. */
export function decisionBetween(
  upper: Pick<SearchResult, 'why' | 'pinned'>,
  lower: Pick<SearchResult, 'why' | 'pinned'>,
): Decision | null {
  if (upper.pinned || lower.pinned) return { by: 'pin' };
  const [a, b] = [upper.why, lower.why];
  if (!a || !b) return null;
  for (const by of ['words', 'typos'] as const) if (a[by] !== b[by]) return { by, upper: a[by], lower: b[by] };
  // What a placement lifts or sinks goes before this, so it decides only for the upper one.
  if (a.whole && classOf(a) < classOf(b)) return { by: 'whole', ...a.whole };
  if (Math.abs(a.score - b.score) > SAME) return { by: 'score', upper: a.score, lower: b.score, mostly: mostly(a, b) };
  return { by: 'order' };
}

/** Codes first, then other values that are the query, then the rest. */
const classOf = ({ whole }: Why): number => (whole ? (whole.isCode ? 0 : 1) : 2);

/** Which half of the score tells the two apart; where they pull against each other, the one that wins. */
function mostly(a: Why, b: Why): 'text' | 'signals' {
  const [text, signals] = [a.text - b.text, a.signals - b.signals];
  const sign = Math.sign(a.score - b.score);
  if (Math.sign(text) !== sign) return 'signals';
  if (Math.sign(signals) !== sign) return 'text';
  return Math.abs(text) >= Math.abs(signals) ? 'text' : 'signals';
}

const words = (count: number): string => (count === 1 ? '1 word' : `${count} words`);
const typos = (count: number): string => (count === 0 ? 'no typo' : count === 1 ? '1 typo' : `${count} typos`);

/** The decision as a sentence about the two, by their names. */
export function decisionSentence(decision: Decision, upper: string, lower: string): string {
  switch (decision.by) {
    case 'pin':
      return `A pin decides between “${upper}” and “${lower}”, not their numbers.`;
    case 'words':
      return `“${upper}” holds ${words(decision.upper)} of the query, “${lower}” ${words(decision.lower)}: more words stand first.`;
    case 'typos':
      return `“${upper}” was found with ${typos(decision.upper)}, “${lower}” with ${typos(decision.lower)}: fewer stand first.`;
    case 'whole':
      return decision.isCode
        ? `The code of “${upper}” in ${decision.field} is the very query: that stands first.`
        : `“${upper}” is the very query, in ${decision.field}: that stands before what only holds it.`;
    case 'score': {
      const what = decision.mostly === 'text' ? 'where its words were found' : 'its signals';
      return `“${upper}” has the higher score, ${decision.upper.toFixed(2)} against ${decision.lower.toFixed(2)}, by ${what}.`;
    }
    case 'order':
      return `“${upper}” and “${lower}” have the same numbers: the one that was loaded first stands first.`;
  }
}
