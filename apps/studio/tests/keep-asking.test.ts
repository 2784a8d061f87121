/** @jest-environment jsdom */
import { keepAsking } from '../src/ui/keep-asking';

let isVisible = true;
beforeAll(() => {
  Object.defineProperty(document, 'visibilityState', { get: () => (isVisible ? 'visible' : 'hidden') });
});
beforeEach(() => {
  jest.useFakeTimers();
  isVisible = true;
});
afterEach(() => jest.useRealTimers());

/** Shows or hides the page, as another tab in front of it does. */
function show(visible: boolean): void {
  isVisible = visible;
  document.dispatchEvent(new Event('visibilitychange'));
}

/** A server that answers after `takes` milliseconds, or not before it is given up; counts what is open. */
function slowServer(takes: number, wait: (answers: number) => number | null = () => 1_000) {
  const seen = { asked: 0, open: 0, most: 0, answers: 0, givenUp: [] as string[] };
  const ask = async (signal: AbortSignal): Promise<number | null> => {
    seen.asked++;
    seen.most = Math.max(seen.most, ++seen.open);
    const isAnswered = await new Promise<boolean>((resolve) => {
      const timer = setTimeout(() => resolve(true), takes);
      signal.addEventListener('abort', () => {
        clearTimeout(timer);
        seen.givenUp.push(String((signal.reason as Error).message));
        resolve(false);
      });
    });
    seen.open--;
    if (isAnswered) seen.answers++;
    return wait(seen.answers);
  };
  return { seen, ask };
}

test('a server slower than the wait is never asked twice at a time, and every answer is taken', async () => {
  const { seen, ask } = slowServer(4_000);
  const stop = keepAsking(ask);
  await jest.advanceTimersByTimeAsync(21_000);
  expect([seen.asked, seen.most, seen.answers]).toEqual([5, 1, 4]);
  stop();
  await jest.advanceTimersByTimeAsync(60_000);
  expect([seen.asked, seen.open, seen.answers]).toEqual([5, 0, 4]);
});

test('nobody is asked for a page that is not seen; one that is seen again asks at once, and once', async () => {
  const { seen, ask } = slowServer(10);
  const stop = keepAsking(ask);
  await jest.advanceTimersByTimeAsync(500);
  show(false);
  await jest.advanceTimersByTimeAsync(60_000);
  expect(seen.asked).toBe(1);
  show(true);
  show(true);
  expect(seen.asked).toBe(2);
  await jest.advanceTimersByTimeAsync(1_020);
  expect(seen.asked).toBe(3);
  stop();
  show(true);
  expect(seen.asked).toBe(3);
});

test('a question that hangs is given up after half a minute, and asked again', async () => {
  const { seen, ask } = slowServer(1e9);
  const stop = keepAsking(ask);
  await jest.advanceTimersByTimeAsync(29_900);
  expect(seen.asked).toBe(1);
  await jest.advanceTimersByTimeAsync(1_200);
  expect([seen.asked, seen.most, seen.givenUp]).toEqual([2, 1, ['The server has not answered for 30 seconds.']]);
  stop();
});

test('what says that no more is to come is not asked again, also when the page is seen again', async () => {
  const { seen, ask } = slowServer(10, (answers) => (answers < 2 ? 1_000 : null));
  const stop = keepAsking(ask);
  await jest.advanceTimersByTimeAsync(60_000);
  show(false);
  show(true);
  expect(seen.asked).toBe(2);
  stop();
});
