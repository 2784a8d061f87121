/** What is said when a search failed: the last results stay, and it can be tried again. */
export function Trouble({ error, onRetry }: { error: Error | null; onRetry: () => void }) {
  const offline = typeof navigator !== 'undefined' && !navigator.onLine;
  return (
    <p role="alert" data-part="trouble">
      {offline
        ? 'The line is down. These are the last results.'
        : `The search did not answer${error?.name === 'ProblemError' ? `: ${error.message}` : '.'}`}
      <button type="button" data-part="button" onClick={onRetry}>
        Try again
      </button>
    </p>
  );
}
