/** Stands in the drop-in for the English texts: a page brings all of its texts along. */
import type { TextsOf } from '../../texts/texts.ts';

export const ENGLISH: TextsOf = {};
