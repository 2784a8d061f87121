import { useEffect, useRef, useState, type RefObject } from 'react';
import { holdFocus } from './sheet-focus.ts';

/** A part of the page that is opened over it, as filters are on a phone: see `holdFocus`. */
export function useSheet(): {
  ref: RefObject<HTMLDivElement | null>;
  open: boolean;
  show: () => void;
  close: () => void;
} {
  const ref = useRef<HTMLDivElement>(null);
  const [open, setOpen] = useState(false);
  useEffect(() => (open && ref.current ? holdFocus(ref.current, () => setOpen(false)) : undefined), [open]);
  return { ref, open, show: () => setOpen(true), close: () => setOpen(false) };
}
