const FOCUSABLE = 'a[href], button:not([disabled]), input:not([disabled]), select, summary, [tabindex="0"]';

/**
 * Has the focus go into a part that lies over the page, and stay there; Escape closes it. The page behind does not
 * scroll. Returns what undoes that, with the focus back where it was.
 */
export function holdFocus(sheet: HTMLElement, close: () => void): () => void {
  const root = sheet.getRootNode() as Document | ShadowRoot;
  const before = root.activeElement as HTMLElement | null;
  const { overflow } = document.documentElement.style;
  document.documentElement.style.overflow = 'hidden';
  sheet.focus();
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key === 'Escape') close();
    if (event.key === 'Tab') keepInside(event, sheet, root.activeElement);
  };
  sheet.addEventListener('keydown', onKeyDown);
  return () => {
    sheet.removeEventListener('keydown', onKeyDown);
    document.documentElement.style.overflow = overflow;
    before?.focus();
  };
}

/** From the last part on to the first, and back. */
function keepInside(event: KeyboardEvent, sheet: HTMLElement, active: Element | null): void {
  const parts = [...sheet.querySelectorAll<HTMLElement>(FOCUSABLE)].filter((part) => part.offsetParent !== null);
  const [first, last] = [parts[0], parts.at(-1)];
  if (!first || !last) return;
  if (event.shiftKey && (active === first || active === sheet)) last.focus();
  else if (!event.shiftKey && active === last) first.focus();
  else return;
  event.preventDefault();
}
