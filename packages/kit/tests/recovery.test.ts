/** @jest-environment jsdom */
import type { ProblemJson } from '@yucca/contract';
import { ProblemError } from '../src/problem-error.ts';
import { mayPass, Recovery } from '../src/recovery.ts';

const problem = (status: number, retryAfterS: number | null = null): ProblemError =>
  new ProblemError({ status, title: 'x', detail: 'x' } as ProblemJson, retryAfterS);
const down = new TypeError('fetch failed');
let tries = 0;
let recovery: Recovery;

beforeEach(() => {
  jest.useFakeTimers();
  jest.spyOn(Math, 'random').mockReturnValue(1);
  tries = 0;
  recovery = new Recovery(() => tries++);
});
afterEach(() => {
  recovery.stop();
  jest.restoreAllMocks();
  jest.useRealTimers();
});

const look = (state: 'hidden' | 'visible'): void => {
  jest.spyOn(document, 'visibilityState', 'get').mockReturnValue(state);
  document.dispatchEvent(new Event('visibilitychange'));
};

test('what may pass is tried again, what may not is not', () => {
  expect([429, 503, 502, 504].map((status) => mayPass(problem(status)))).toEqual([true, true, true, true]);
  expect([400, 401, 404, 422, 500].map((status) => mayPass(problem(status)))).not.toContain(true);
  expect(mayPass(down)).toBe(true);
  expect(mayPass(new DOMException('late', 'TimeoutError'))).toBe(true);
  expect(mayPass(new DOMException('gone', 'AbortError'))).toBe(false);
  recovery.failed(problem(404));
  jest.advanceTimersByTime(600_000);
  expect(tries).toBe(0);
});

test('each time after twice as long, up to half a minute, and from the beginning once it has worked', () => {
  const waits = Array.from({ length: 8 }, () => {
    recovery.failed(down);
    const before = tries;
    let waited = 0;
    for (; tries === before && waited < 100_000; waited += 100) jest.advanceTimersByTime(100);
    return waited;
  });
  expect(waits).toEqual([1_000, 2_000, 4_000, 8_000, 16_000, 30_000, 30_000, 30_000]);
  recovery.stop();
  recovery.failed(down);
  jest.advanceTimersByTime(1_000);
  expect(tries).toBe(9);
});

test('never before the server asks for it', () => {
  recovery.failed(problem(429, 53));
  jest.advanceTimersByTime(52_900);
  expect(tries).toBe(0);
  jest.advanceTimersByTime(1_200);
  expect(tries).toBe(1);
});

test('at once when the line is back', () => {
  for (let i = 0; i < 5; i++) recovery.failed(down);
  window.dispatchEvent(new Event('online'));
  expect(tries).toBe(1);
  window.dispatchEvent(new Event('online'));
  expect(tries).toBe(1);
});

test('a page that nobody sees waits until somebody does', () => {
  look('hidden');
  recovery.failed(down);
  jest.advanceTimersByTime(60_000);
  expect(tries).toBe(0);
  look('visible');
  expect(tries).toBe(1);
});

test('what is given up is not tried again', () => {
  recovery.failed(down);
  recovery.stop();
  jest.advanceTimersByTime(60_000);
  window.dispatchEvent(new Event('online'));
  expect(tries).toBe(0);
});
