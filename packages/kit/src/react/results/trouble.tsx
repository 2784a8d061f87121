import { mayPass } from '../../recovery.ts';

export interface TroubleProps {
  error: Error | null;
  /** Results are still on screen. Default: yes. */
  hasResults?: boolean;
  onRetry: () => void;
}

/**
 * What is said when a search failed: the last results stay, and it is tried again by itself where that may help. The
 * button stands first, so that whatever is said it stays where it is.
 */
export function Trouble({ error, hasResults = true, onRetry }: TroubleProps) {
  const offline = typeof navigator !== 'undefined' && !navigator.onLine;
  const said = offline
    ? 'The line is down.'
    : `The search did not answer${error?.name === 'ProblemError' ? `: ${error.message}` : '.'}`;
  return (
    <p role="alert" data-part="trouble">
      <button type="button" data-part="button" onClick={onRetry}>
        Try again
      </button>
      <span>
        {said}
        {hasResults && ' These are the last results.'}
        {mayPass(error) && ' It is tried again by itself.'}
      </span>
    </p>
  );
}
