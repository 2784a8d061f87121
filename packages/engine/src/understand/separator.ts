/** What may stand between the cells of a table, and how it is called. */
export const SEPARATORS = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'pipes' } as const;

export type Separator = keyof typeof SEPARATORS;

export const SEPARATOR_SIGNS = Object.keys(SEPARATORS) as Separator[];

/** The separator of a CSV: whichever of them its header row uses most, outside quotes. */
export function sniffSeparator(text: string): Separator {
  const counts: Record<Separator, number> = { ',': 0, ';': 0, '\t': 0, '|': 0 };
  let quoted = false;
  for (const char of text) {
    if (char === '"') quoted = !quoted;
    else if (!quoted && (char === '\n' || char === '\r')) break;
    else if (!quoted && Object.hasOwn(counts, char)) counts[char as Separator]++;
  }
  const most = Math.max(...Object.values(counts));
  // Of equals the rarer sign: a comma stands in a name sooner than a tab.
  const order: Separator[] = ['\t', '|', ';', ','];
  return most === 0 ? ',' : order.find((separator) => counts[separator] === most)!;
}
