import type { PlacementDocument } from '@yucca/contract';

type When = PlacementDocument['when'];

/** A condition of a placement besides its query and its days, written one a line. */
export interface Condition {
  name: keyof When & string;
  /** Above its field. */
  label: string;
  example: string;
  /** A placement's own, as lines. */
  write: (when: When) => string[];
  /** The lines as a part of `when`; or what is wrong with one of them. */
  read: (lines: readonly string[]) => When | string;
  /** As it is told: "colour is red". */
  words: (when: When) => string[];
}

const choices: Condition = {
  name: 'select',
  label: 'Choices, one a line',
  example: 'colour: red',
  write: ({ select = {} }) =>
    Object.entries(select).flatMap(([facet, values]) => values.map((value) => `${facet}: ${value}`)),
  read: (lines) => {
    const select: Record<string, string[]> = {};
    for (const line of lines) {
      const [, facet, value] = /^([^:]+):\s*(.+)$/.exec(line) ?? [];
      if (facet === undefined || value === undefined)
        return `A choice is a facet and a value: “colour: red”, not “${line}”.`;
      (select[facet.trim()] ??= []).push(value);
    }
    return { select };
  },
  words: ({ select = {} }) => Object.entries(select).map(([facet, values]) => `${facet} is ${values.join(' and ')}`),
};

const tags: Condition = {
  name: 'tags',
  label: 'Tags, one a line',
  example: 'newsletter',
  write: ({ tags: list = [] }) => list,
  read: (lines) => ({ tags: [...lines] }),
  words: ({ tags: list = [] }) => (list.length > 0 ? [`tagged ${list.join(', ')}`] : []),
};

/** In the order of the form. A new one is an entry here. */
export const CONDITIONS: readonly Condition[] = [choices, tags];
