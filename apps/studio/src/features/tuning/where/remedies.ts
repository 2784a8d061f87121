import type { Reason, TuningDocument } from '@yucca/contract';
import { withTypos, withWords } from '../levers';
import { withShown } from '../placements/placements';

/** A change of the draft that may bring a record among the results. */
export interface Remedy {
  label: string;
  apply: (document: TuningDocument) => TuningDocument;
}

const TIMES = ['no', 'one', 'two'] as const;

/** What could be done about each of the reasons that keep a record out. Some have no remedy: what was asked is not so. */
export function remediesFor(reasons: readonly Reason[], id: string, words: number): Remedy[] {
  const remedies = reasons.flatMap((reason): Remedy[] => {
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
  });
  const lacking = reasons.filter(({ kind }) => kind === 'word').length;
  if (lacking > 0 && lacking < words)
    remedies.push({
      label: 'Ask for most words, not all',
      apply: (document) => withWords(document, { require: 'most' }),
    });
  return remedies;
}

function wordRemedies({ word, typosAllowed, nearest }: Extract<Reason, { kind: 'word' }>): Remedy[] {
  if (nearest === null) return [];
  const { text, typos, begins } = nearest;
  if (begins && typos === 0)
    return [{ label: 'Let every word be unfinished', apply: (document) => withWords(document, { prefix: 'all' }) }];
  const synonym: Remedy = {
    label: `Let “${word}” find “${text}”`,
    apply: (document) => withSynonym(document, word, text),
  };
  const letters = [...word].length;
  if (begins || typos > 2 || typos <= typosAllowed) return [synonym];
  const rule = typos === 1 ? { oneFrom: letters } : { twoFrom: letters };
  return [
    synonym,
    {
      label: `Forgive ${TIMES[typos]} ${typos === 1 ? 'typo' : 'typos'} from ${letters} letters`,
      apply: (document) => withTypos(document, { enabled: true, ...rule }),
    },
  ];
}

/** Lets one word find another as well, in the group there is for it. */
function withSynonym(document: TuningDocument, from: string, to: string): TuningDocument {
  const groups = document.synonyms ?? [];
  return { ...document, synonyms: [...groups, { kind: 'oneWay', from: [from.toLowerCase()], to: [to] }] };
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
      return 'It is found, further down than places are counted.';
    case 'word':
      return wordSentence(reason);
  }
}

function wordSentence({ word, typosAllowed, nearest }: Extract<Reason, { kind: 'word' }>): string {
  if (nearest === null) return `Nothing in it is spelt like “${word}”.`;
  const { text, field, typos, begins } = nearest;
  const off = typos === 0 ? '' : `, ${typos} ${typos === 1 ? 'typo' : 'typos'} off`;
  const allowed = typos > 0 && typos > typosAllowed ? ` where ${TIMES[typosAllowed]} ${typosAllowed === 1 ? 'is' : 'are'} forgiven` : ''; // prettier-ignore
  return `It does not hold “${word}”; nearest is “${text}” in ${field}${off}${begins ? ', as a beginning' : ''}${allowed}.`;
}
