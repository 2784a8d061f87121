import { later } from '../src/ui/later';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('of many asked for one after the other, the last one is done', () => {
  const done: string[] = [];
  for (const letter of 'abc') {
    const stop = later(250, () => done.push(letter));
    jest.advanceTimersByTime(200);
    if (letter !== 'c') stop();
  }
  jest.advanceTimersByTime(100);
  expect(done).toEqual(['c']);
});

test('what is under way already hears that it is not wanted any more', () => {
  let heard: AbortSignal | null = null;
  const stop = later(10, (signal) => (heard = signal));
  jest.advanceTimersByTime(10);
  expect(heard!).toMatchObject({ aborted: false });
  stop();
  expect(heard!).toMatchObject({ aborted: true });
});
