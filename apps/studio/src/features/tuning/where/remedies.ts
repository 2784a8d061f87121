import type { Reason, TuningDocument, Whereabouts } from '@yucca/contract';
import { withTypos, withWords } from '../levers';
import { withPin, withShown } from '../placements/placements';

/** A change of the draft that may bring a record among the results. */
export interface Remedy {
  label: string;
  apply: (document: TuningDocument) => TuningDocument;
}

const TIMES = ['no', 'one', 'two'] as const;

/** A place from here on is not seen. */
const SEEN = 10;

export interface Sought {
  /** Where the record is under the draft. */
  found: Whereabouts;
  /** The query, as typed. */
  text: string;
  /** Words of it. */
  words: number;
  document: TuningDocument;
}

/**
 * What could bring a record up for a query: something about each of the reasons that keep it out, or a better reading
 * of what was misspelt where it stands too low; at last a pin. What the draft does already is not offered.
 */
export function remediesFor({ found, text, words, document }: Sought): Remedy[] {
  const { id, place, reasons, result } = found;
  if (place !== null && place <= SEEN) return [];
  if (reasons.some(({ kind }) => kind === 'absent' || kind === 'excluded')) return [];
  const lacking = reasons.filter((reason) => reason.kind === 'word');
  const misread = (result?.why?.parts ?? []).filter(({ how }) => how === 'typo');
  const remedies = [
    ...misread.map(({ word, matched }) => letFind(word, matched)),
    ...reasons.flatMap((reason) => remediesForReason(reason, id)),
    ...(lacking.length > 0 && lacking.length < words ? partRemedies(lacking.map(({ word }) => word)) : []),
    {
      label: `Pin it first for “${text.trim()}”`,
      apply: (now: TuningDocument) => withPin(now, text, id, 1),
    },
  ];
  const before = JSON.stringify(document);
  return remedies.filter(({ apply }) => JSON.stringify(apply(document)) !== before);
}

/** What could be done when some words of several are found and others are not. */
function partRemedies(lacking: readonly string[]): Remedy[] {
  const missing = lacking.map((word): Remedy => ({
    label: `“${word}” as a stop word`,
    apply: (document) => ({
      ...document,
      stopWords: [...new Set([...(document.stopWords ?? []), word.toLowerCase()])],
    }),
  }));
  const most: Remedy = {
    label: 'Ask for most words, not all',
    apply: (document) => (document.words?.require === 'any' ? document : withWords(document, { require: 'most' })),
  };
  return [...(lacking.length === 1 ? missing : []), most];
}

function remediesForReason(reason: Reason, id: string): Remedy[] {
  switch (reason.kind) {
    case 'word':
      return wordRemedies(reason);
    case 'hidden':
      return [
        {
          label: `Take it off what “${reason.placement}” hides`,
          apply: (document) => withShown(document, reason.placement, id),
        },
      ];
    case 'group':
      return [{ label: `Show all of one ${reason.field}`, apply: (document) => ({ ...document, group: null }) }];
    default:
      return [];
  }
}

function wordRemedies({ word, typosAllowed, nearest }: Extract<Reason, { kind: 'word' }>): Remedy[] {
  if (nearest === null) return [];
  const { text, typos, begins } = nearest;
  if (begins && typos === 0)
    return [{ label: 'Let every word be unfinished', apply: (document) => withWords(document, { prefix: 'all' }) }];
  const synonym = letFind(word, text);
  const letters = [...word].length;
  if (begins || typos > 2 || typos <= typosAllowed) return [synonym];
  const rule = typos === 1 ? { oneFrom: letters } : { twoFrom: letters };
  return [
    synonym,
    {
      label: `Allow ${TIMES[typos]} ${typos === 1 ? 'typo' : 'typos'} from ${letters} letters`,
      apply: (document) => withTypos(document, { enabled: true, ...rule }),
    },
  ];
}

/** Lets one word, or several that stand together, find another as well. */
export function letFind(from: string, to: string): Remedy {
  const group = { kind: 'oneWay' as const, from: [from.trim().toLowerCase()], to: [to] };
  return {
    label: `Let “${from}” find “${to}”`,
    apply: (document) => ({ ...document, synonyms: [...(document.synonyms ?? []), group] }),
  };
}

/** What keeps a record out, for a person. */
export function reasonSentence(reason: Reason): string {
  switch (reason.kind) {
    case 'absent':
      return 'There is no such record.';
    case 'filter':
      return 'It does not fulfil the condition.';
    case 'near':
      return 'It lies further away, or has no place.';
    case 'choice':
      return `It is not what was chosen under ${reason.facet}.`;
    case 'excluded':
      return `It holds “${reason.word}”, which the query excludes.`;
    case 'hidden':
      return `The placement “${reason.placement}” hides it.`;
    case 'group':
      return `Another record of its ${reason.field} stands for it.`;
    case 'far':
      return 'It is found, further down than ranks are counted.';
    case 'word':
      return wordSentence(reason);
  }
}

function wordSentence({ word, typosAllowed, nearest }: Extract<Reason, { kind: 'word' }>): string {
  if (nearest === null) return `Nothing in it is spelt like “${word}”.`;
  const { text, field, typos, begins } = nearest;
  const off = typos === 0 ? '' : `, ${typos} ${typos === 1 ? 'typo' : 'typos'} off`;
  const allowed = typos > 0 && typos > typosAllowed ? ` where ${TIMES[typosAllowed]} ${typosAllowed === 1 ? 'is' : 'are'} allowed` : ''; // prettier-ignore
  return `It does not hold “${word}”; nearest is “${text}” in ${field}${off}${begins ? ', as a beginning' : ''}${allowed}.`;
}
