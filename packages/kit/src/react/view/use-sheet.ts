import { useEffect, useRef, useState, type RefObject } from 'react';

const FOCUSABLE = 'a[href], button:not([disabled]), input:not([disabled]), select, summary, [tabindex="0"]';

/**
 * A part of the page that is opened over it, as filters are on a phone: the focus goes in and stays in, Escape closes,
 * and the focus goes back to where it was. The page behind does not scroll.
 */
export function useSheet(): {
  ref: RefObject<HTMLDivElement | null>;
  open: boolean;
  show: () => void;
  close: () => void;
} {
  const ref = useRef<HTMLDivElement>(null);
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const sheet = ref.current;
    if (!open || !sheet) return;
    const root = sheet.getRootNode() as Document | ShadowRoot;
    const before = root.activeElement as HTMLElement | null;
    const { overflow } = document.documentElement.style;
    document.documentElement.style.overflow = 'hidden';
    sheet.focus();
    const onKeyDown = (event: KeyboardEvent): void => {
      if (event.key === 'Escape') setOpen(false);
      if (event.key === 'Tab') keepInside(event, sheet, root.activeElement);
    };
    sheet.addEventListener('keydown', onKeyDown);
    return () => {
      sheet.removeEventListener('keydown', onKeyDown);
      document.documentElement.style.overflow = overflow;
      before?.focus();
    };
  }, [open]);
  return { ref, open, show: () => setOpen(true), close: () => setOpen(false) };
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
