/** See lent-react.ts: parts that are fetched later speak as those above them. */
import type { useTexts as UseTexts } from '../../react/use-texts.ts';

export const { useTexts } = (globalThis as unknown as { yuccaLent: { useTexts: typeof UseTexts } }).yuccaLent;
