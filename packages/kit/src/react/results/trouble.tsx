import { mayPass } from '../../recovery.ts';
import { useTexts } from '../use-texts.ts';

/** What `Trouble` is given. */
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
  const { say } = useTexts();
  const reason = error?.name === 'ProblemError' ? error.message : null;
  const said = [
    offline ? say('lineDown') : reason === null ? say('noAnswer') : say('noAnswerBecause', { reason }),
    hasResults && say('lastResults'),
    mayPass(error) && say('triedAgain'),
  ];
  return (
    <p role="alert" data-part="trouble">
      <button type="button" data-part="button" onClick={onRetry}>
        {say('tryAgain')}
      </button>
      <span>{said.filter(Boolean).join(' ')}</span>
    </p>
  );
}
