'use client';

import { unless } from '@yucca/contract';

/** Changes between light and dark; the choice is kept on this machine. */
export function ThemeSwitch() {
  const turn = (): void => {
    const root = document.documentElement;
    const dark = root.dataset.theme
      ? root.dataset.theme === 'dark'
      : window.matchMedia('(prefers-color-scheme: dark)').matches;
    root.dataset.theme = dark ? 'light' : 'dark';
    const { theme } = root.dataset;
    // Where storage is closed off, the theme lasts until the page is left.
    unless(DOMException, () => localStorage.setItem('yucca-theme', theme), undefined);
  };
  return (
    <button
      type="button"
      onClick={turn}
      aria-label="Change between light and dark"
      title="Light or dark"
      className="grid size-8 place-items-center rounded-md text-soft hover:bg-sunk hover:text-ink"
    >
      <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
        <circle cx="8" cy="8" r="6.250" fill="none" stroke="currentColor" strokeWidth="1.500" />
        <path d="M8 2a6 6 0 0 1 0 12z" fill="currentColor" />
      </svg>
    </button>
  );
}
