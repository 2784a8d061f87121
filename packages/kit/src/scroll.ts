/** Where in `history.state` the scroll position of an entry is kept, beside whatever others keep there. */
const KEY = 'yuccaScroll';
/** Positions are written down when scrolling has paused for this long: browsers limit how often. */
const PAUSE_MS = 120;

/**
 * Keeps the scroll position with each history entry, for pages that draw their results themselves: the browser restores
 * it before they are there. Returns `restore`, to be called when the results of the entry are drawn, and `stop`.
 */
export function keepScroll(
  page: Pick<Window, 'history' | 'addEventListener' | 'removeEventListener' | 'scrollTo'> & { scrollY: number },
): {
  /** Goes to where the entry of the history was left. */
  restore: () => void;
  /** Leaves the position to the browser again. */
  stop: () => void;
} {
  const { history } = page;
  const before = history.scrollRestoration;
  history.scrollRestoration = 'manual';
  let timer: ReturnType<typeof setTimeout> | undefined;
  const write = (): void => {
    const state: unknown = history.state;
    history.replaceState({ ...(typeof state === 'object' ? state : {}), [KEY]: page.scrollY }, '');
  };
  const onScroll = (): void => {
    clearTimeout(timer);
    timer = setTimeout(write, PAUSE_MS);
  };
  // The entry that is left must not get the position of the one that comes.
  const onPop = (): void => clearTimeout(timer);
  page.addEventListener('scroll', onScroll, { passive: true });
  page.addEventListener('popstate', onPop);
  return {
    restore() {
      const state = history.state as { [KEY]?: unknown } | null;
      if (typeof state?.[KEY] === 'number') page.scrollTo(0, state[KEY]);
    },
    stop() {
      clearTimeout(timer);
      history.scrollRestoration = before;
      page.removeEventListener('scroll', onScroll);
      page.removeEventListener('popstate', onPop);
    },
  };
}
