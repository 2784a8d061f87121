/** Runs the examples on the pages of the documentation, each in the place that the page has for it. */
import { createElement, StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { PARTS, STARTS, VALUES } from './names';
import { WithShop } from './shop';

for (const place of document.querySelectorAll<HTMLElement>('[data-example]')) {
  const name = place.dataset.example!;
  const part = PARTS.get(name);
  const value = VALUES.get(name);
  if (part) {
    place.dataset.yucca = '';
    createRoot(place).render(
      <StrictMode>
        <WithShop start={STARTS[name] ?? {}}>{(shop) => createElement(part, shop)}</WithShop>
      </StrictMode>,
    );
  } else if (value) void showValue(place, value);
}

/** What comes of a function, as JSON where it has none of its own form. */
async function showValue(place: HTMLElement, value: () => unknown): Promise<void> {
  const made = await value();
  place.textContent = typeof made === 'string' ? made : JSON.stringify(made, null, 2);
  place.dataset.kind = 'value';
}
