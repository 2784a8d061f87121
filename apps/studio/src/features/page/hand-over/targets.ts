import type { HandoverTarget } from '@yucca/contract';

/** What a page can be taken away as, in the order of how much of it one owns afterwards. */
export const TARGETS: readonly [name: HandoverTarget, title: string, about: string][] = [
  ['html', 'One HTML file', 'The page as one element with its header and theme. What is published is on it at once.'],
  ['header', 'Header search', 'The search field alone, for the header of a site that shows results itself.'],
  ['react', 'React project', 'Vite and TypeScript; the page written out in components that are yours to change.'],
  ['next', 'Next.js project', 'The same with first results from its server, record pages and a sitemap.'],
  ['plain', 'TypeScript project', 'No framework: the core and the DOM, with how state and address are wired.'],
  ['static', 'Folder without a server', 'The engine and the records in the page itself; works without a line too.'],
];

export const isTarget = (name: string): name is HandoverTarget => TARGETS.some(([one]) => one === name);
