import { useEffect, type RefObject } from 'react';

/**
 * Keeps the control that has the focus in sight when the panel around it gets smaller: the first change of a draft
 * brings up the draft's bar, and the control that was just used must not vanish behind it.
 */
export function useFocusInSight(panel: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const element = panel.current;
    if (element === null) return;
    let before = element.clientHeight;
    const watch = new ResizeObserver(() => {
      const { activeElement } = document;
      if (element.clientHeight < before && activeElement !== element && element.contains(activeElement))
        activeElement!.scrollIntoView({ block: 'nearest' });
      before = element.clientHeight;
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, [panel]);
}
