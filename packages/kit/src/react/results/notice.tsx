import type { SearchAnswer } from '@yucca/contract';

/** What a placement says above the results. */
export function Notice({ answer }: { answer: SearchAnswer }) {
  const { notice } = answer.understood;
  return notice === null ? null : <p data-part="notice">{notice}</p>;
}

/** Where a placement sends whoever asks for these words: an address of the page's own server or of the web, or null. */
export function redirectOf(answer: SearchAnswer | null): string | null {
  const to = answer?.understood.redirect ?? null;
  return to !== null && /^(https?:\/\/|\/(?!\/))/.test(to) ? to : null;
}
