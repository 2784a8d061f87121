import { chance, type Generator } from './generator.ts';

/** Every beginning of 500 queries of two words, a third of them with a typo in the second word. */
export function keystrokes(generator: Generator, queries = 500): string[] {
  const next = chance(99);
  const log: string[] = [];
  for (let i = 0; i < queries; i++) {
    const second = generator.word(next);
    const query = `${generator.word(next)} ${i % 3 === 0 ? misspell(second, next) : second}`;
    for (let length = 1; length <= query.length; length++) log.push(query.slice(0, length));
  }
  return log;
}

function misspell(word: string, next: () => number): string {
  if (word.length < 4) return word;
  const at = 1 + Math.floor(next() * (word.length - 2));
  switch (Math.floor(next() * 4)) {
    case 0:
      return word.slice(0, at) + word.slice(at + 1);
    case 1:
      return `${word.slice(0, at)}e${word.slice(at)}`;
    case 2:
      return `${word.slice(0, at)}o${word.slice(at + 1)}`;
    default:
      return word.slice(0, at) + word[at + 1] + word[at] + word.slice(at + 2);
  }
}
