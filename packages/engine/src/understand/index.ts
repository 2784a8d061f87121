export { ArrayElements } from './array-elements.ts';
export { guessCard, guessFacets } from './card.ts';
export { guessFormat, nameColumns, sniffSeparator, type FileFormat, type FormatGuess } from './format.ts';
export { guessKey, type KeyGuess } from './key.ts';
