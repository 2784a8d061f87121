/** @jest-environment jsdom */
import { keepScroll } from '../src/index.ts';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

function scrollTo(y: number): void {
  Object.defineProperty(window, 'scrollY', { value: y, configurable: true });
  window.dispatchEvent(new Event('scroll'));
}

test('each entry of the history keeps the place that was scrolled to, beside what others keep there', () => {
  const went: number[] = [];
  window.scrollTo = ((_: unknown, y: number) => void went.push(y)) as unknown as typeof window.scrollTo;
  // The browser of these tests does not know this one.
  Object.assign(window.history, { scrollRestoration: 'auto' });
  window.history.replaceState({ router: 'its own' }, '');
  const scroll = keepScroll(window);
  expect(window.history.scrollRestoration).toBe('manual');
  scrollTo(480);
  expect(window.history.state).toEqual({ router: 'its own' });
  jest.runAllTimers();
  expect(window.history.state).toEqual({ router: 'its own', yuccaScroll: 480 });
  scroll.restore();
  expect(went).toEqual([480]);
  // A new entry has no place yet: nothing moves.
  window.history.pushState(null, '', '?page=2');
  scroll.restore();
  expect(went).toEqual([480]);
  // Leaving by Back while a scroll is still to be written down: it is not written to the entry that comes.
  scrollTo(90);
  window.dispatchEvent(new PopStateEvent('popstate'));
  jest.runAllTimers();
  expect(window.history.state).toBeNull();
  scroll.stop();
  expect(window.history.scrollRestoration).toBe('auto');
});
