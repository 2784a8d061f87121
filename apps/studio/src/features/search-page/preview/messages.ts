import type { InterfacePage } from '@yucca/contract';

/** What the designer tells the page in its frame. */
export type ToPage =
  /** Asks whether the page hears by now: it may have said so before the designer heard. */
  | { yucca: 'hello' }
  | { yucca: 'page'; page: InterfacePage }
  /** What is asked for: the text of the probe. */
  | { yucca: 'query'; q: string }
  /** Whether pointing at parts chooses them, in place of using the page. */
  | { yucca: 'pointing'; on: boolean }
  /** The part whose control is being worked; null = none. */
  | { yucca: 'outline'; part: string | null }
  | { yucca: 'scheme'; scheme: 'light' | 'dark' };

/** What the page in a frame tells the designer. */
export type FromPage =
  /** The page hears from now on; said once by itself, and to each hello. */
  | { yucca: 'ready' }
  /** A part was clicked while pointing. */
  | { yucca: 'chosen'; part: string }
  /** The visitor’s text in the frame has changed. */
  | { yucca: 'asked'; q: string };

/** Hears what comes from one window of this origin, and no other. */
export function hearFrom<M extends { yucca: string }>(
  source: () => Window | null,
  onMessage: (message: M) => void,
): () => void {
  const hear = (event: MessageEvent<unknown>): void => {
    if (event.origin !== window.location.origin || event.source !== source()) return;
    const { data } = event;
    if (typeof data === 'object' && data !== null && 'yucca' in data) onMessage(data as M);
  };
  window.addEventListener('message', hear);
  return () => window.removeEventListener('message', hear);
}
