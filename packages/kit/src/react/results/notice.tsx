import type { SearchAnswer } from '@yucca/contract';

/** What a placement says above the results. */
export function Notice({ answer }: { answer: SearchAnswer }) {
  const { notice } = answer.understood;
  return notice === null ? null : <p data-part="notice">{notice}</p>;
}
