/**
 * Does something once nothing has called it off for so long (milliseconds). Returns what calls it off, before it has
 * begun or, by its signal, after: `useEffect(() => later(250, ask), [what])` asks about the newest only.
 */
export function later(ms: number, work: (signal: AbortSignal) => void): () => void {
  const gone = new AbortController();
  const timer = setTimeout(() => work(gone.signal), ms);
  return () => {
    clearTimeout(timer);
    gone.abort();
  };
}
