/** @jest-environment jsdom */
import { act, render, screen } from '@testing-library/react';
import { usePainted } from '../src/react/use-painted.ts';

let frames: FrameRequestCallback[] = [];

/** Lets the browser draw one frame, and whatever was to follow it. */
async function frame(): Promise<void> {
  await act(async () => {
    const due = frames;
    frames = [];
    due.forEach((draw) => draw(0));
    jest.advanceTimersByTime(1);
    await Promise.resolve();
  });
}

beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ['queueMicrotask'] });
  frames = [];
  window.requestAnimationFrame = (draw) => frames.push(draw);
});
afterEach(() => jest.useRealTimers());

function Page({ text }: { text: string }) {
  return (
    <>
      <h1>{text}</h1>
      <p>{usePainted(text)}</p>
    </>
  );
}

const waiting = (): string => screen.getByRole('paragraph').textContent;

test('what can wait is drawn at first as it is, and later only when the frame of the newest is on screen', async () => {
  const { rerender } = render(<Page text="lav" />);
  expect(waiting()).toBe('lav');
  await frame();
  await frame();
  rerender(<Page text="lave" />);
  expect([screen.getByRole('heading').textContent, waiting()]).toEqual(['lave', 'lav']);
  await frame();
  expect(waiting()).toBe('lav');
  await frame();
  expect(waiting()).toBe('lave');
});

test('a newer value takes the place of one that still waits', async () => {
  const { rerender } = render(<Page text="a" />);
  rerender(<Page text="ab" />);
  await frame();
  rerender(<Page text="abc" />);
  await frame();
  expect(waiting()).toBe('a');
  await frame();
  expect(waiting()).toBe('abc');
});

test('a tab that draws no frames shows it all the same', async () => {
  const { rerender } = render(<Page text="a" />);
  rerender(<Page text="ab" />);
  await act(async () => {
    await jest.advanceTimersByTimeAsync(150);
  });
  expect(waiting()).toBe('ab');
});
