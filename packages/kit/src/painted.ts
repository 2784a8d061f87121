/** The longest that anything waits for a frame, in milliseconds: a tab that nobody sees draws none. */
const MOST_MS = 100;

/**
 * Resolves once the browser has drawn what is there now. The frame after the next one is what tells: the next one only
 * lays out and hands over, and whatever runs then takes the processor from those who draw.
 */
export const painted = (): Promise<void> =>
  new Promise((resolve) => {
    requestAnimationFrame(() => requestAnimationFrame(() => resolve()));
    setTimeout(resolve, MOST_MS);
  });
