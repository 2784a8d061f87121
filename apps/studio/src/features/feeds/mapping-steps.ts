/** How a step of a mapping is made by hand: one way of many, and what belongs to it. */
import type { FeedMappingStep } from '@yucca/contract';

export type Way = 'copy' | 'number' | 'boolean' | 'date' | 'text' | 'join' | 'split' | 'lookup' | 'constant';

/** In words; `argument`: what has to be said besides, null = nothing. */
export const WAYS: Readonly<Record<Way, { words: string; argument: string | null }>> = {
  copy: { words: 'as it came', argument: null },
  number: { words: 'read as a number', argument: null },
  boolean: { words: 'read as yes or no', argument: null },
  date: { words: 'read as a date', argument: null },
  text: { words: 'read as text', argument: null },
  join: { words: 'joined with', argument: 'Joined with' },
  split: { words: 'split at', argument: 'Split at' },
  lookup: { words: 'looked up in', argument: 'Collection and pointer, such as suppliers/name' },
  constant: { words: 'always', argument: 'Always this' },
};

/** The way of a step. One that was made over HTTP may have several; the first is shown. */
export function wayOf(step: FeedMappingStep): Way {
  if (step.from === undefined) return 'constant';
  if (step.lookup !== undefined) return 'lookup';
  if (step.join !== undefined) return 'join';
  if (step.split !== undefined) return 'split';
  return step.as ?? 'copy';
}

/** The same field made another way. */
export function stepBy({ field, from = [''] }: FeedMappingStep, way: Way): FeedMappingStep {
  switch (way) {
    case 'constant':
      return { field, value: '' };
    case 'lookup':
      return { field, from, lookup: { collection: '', take: '' } };
    case 'join':
      return { field, from, join: ' ' };
    case 'split':
      return { field, from, split: ',' };
    case 'copy':
      return { field, from };
    default:
      return { field, from, as: way };
  }
}

/** What belongs to the way of a step, as it is typed. */
export function argumentOf(step: FeedMappingStep): string {
  if (step.lookup !== undefined) return `${step.lookup.collection}${step.lookup.take}`;
  if (step.from === undefined) return typeof step.value === 'string' ? step.value : JSON.stringify(step.value);
  return step.join ?? step.split ?? '';
}

export function withArgument(step: FeedMappingStep, text: string): FeedMappingStep {
  switch (wayOf(step)) {
    case 'constant':
      return { ...step, value: constantOf(text) };
    case 'lookup': {
      const slash = text.indexOf('/');
      const [collection, take] = slash === -1 ? [text, ''] : [text.slice(0, slash), text.slice(slash)];
      return { ...step, lookup: { collection, take } };
    }
    case 'join':
      return { ...step, join: text };
    default:
      // An empty separator parts nothing.
      return text === '' ? step : { ...step, split: text };
  }
}

/** A number and yes or no as such, anything else as text. */
function constantOf(text: string): unknown {
  if (text === 'true' || text === 'false') return text === 'true';
  return /^-?(0|[1-9]\d*)(\.\d+)?$/.test(text) ? Number(text) : text;
}
