import { useSyncExternalStore } from 'react';

/** Tells when the theme changes: by the switch, or with the system. */
function subscribe(listener: () => void): () => void {
  const observer = new MutationObserver(listener);
  observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
  const media = window.matchMedia('(prefers-color-scheme: dark)');
  media.addEventListener('change', listener);
  return () => {
    observer.disconnect();
    media.removeEventListener('change', listener);
  };
}

function themeName(): string {
  const chosen = document.documentElement.dataset.theme;
  return chosen ?? (window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');
}

/** The theme on screen; what is drawn with colours from the tokens is drawn anew when it changes. */
export function useThemeName(): string {
  return useSyncExternalStore(subscribe, themeName, () => 'light');
}

/** The colour of a token as the browser resolves it, for what cannot read CSS variables. */
export function tokenColour(name: string): string {
  const probe = document.createElement('span');
  probe.style.color = `var(--${name})`;
  document.body.append(probe);
  const colour = getComputedStyle(probe).color;
  probe.remove();
  return colour;
}
