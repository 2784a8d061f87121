import { render, type ComponentChildren } from 'preact';
import './react.ts';

/** React's way to draw into an element, over Preact. */
export const createRoot = (into: Element) => ({
  render: (what: ComponentChildren): void => render(what, into),
  unmount: (): void => render(null, into),
});
