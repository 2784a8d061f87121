/** @jest-environment jsdom */
import { render } from '@testing-library/react';
import { useRef } from 'react';
import { useViews } from '../src/react/index.ts';

type Told = [queryId: string, recordId: string, position: number];
let told: Told[] = [];
let inSight: (targets: Element[], isIntersecting: boolean) => void = () => {};
let watched: Element[] = [];

beforeEach(() => {
  jest.useFakeTimers();
  told = [];
  watched = [];
  window.IntersectionObserver = class {
    constructor(callback: IntersectionObserverCallback) {
      inSight = (targets, isIntersecting) =>
        callback(
          targets.map((target) => ({ target, isIntersecting }) as unknown as IntersectionObserverEntry),
          this as unknown as IntersectionObserver,
        );
    }
    observe(target: Element): void {
      watched.push(target);
    }
    disconnect(): void {
      watched = [];
    }
  } as unknown as typeof IntersectionObserver;
});
afterEach(() => jest.useRealTimers());

function List({
  ids,
  queryId = 'q1',
  active = true,
  firstPlace = 0,
}: {
  ids: string[];
  queryId?: string;
  active?: boolean;
  firstPlace?: number;
}) {
  // prettier-ignore
  const list = useRef<HTMLOListElement>(null);
  const insights = useRef({ active, view: (...view: Told) => void told.push(view) });
  useViews(list, ids, queryId, insights.current, firstPlace);
  return (
    <ol ref={list}>
      {ids.map((id) => (
        <li key={id}>{id}</li>
      ))}
    </ol>
  );
}

test('a result that stays in sight for a second is told with its place, one that rushes by is not', () => {
  render(<List ids={['a', 'b', 'c']} firstPlace={40} />);
  expect(watched).toHaveLength(3);
  inSight(watched.slice(0, 2), true);
  jest.advanceTimersByTime(600);
  inSight([watched[0]!], false);
  jest.advanceTimersByTime(400);
  expect(told).toEqual([['q1', 'b', 42]]);
  inSight([watched[0]!], true);
  jest.advanceTimersByTime(1_000);
  expect(told).toEqual([['q1', 'b', 42], ['q1', 'a', 41]]); // prettier-ignore
});

test('another answer starts anew: what was about to be told of the last one is not', () => {
  const { rerender, unmount } = render(<List ids={['a', 'b']} />);
  inSight([watched[0]!], true);
  rerender(<List ids={['c', 'b']} queryId="q2" />);
  jest.advanceTimersByTime(2_000);
  expect(told).toEqual([]);
  inSight([watched[1]!], true);
  jest.advanceTimersByTime(1_000);
  expect(told).toEqual([['q2', 'b', 2]]);
  inSight([watched[0]!], true);
  unmount();
  jest.advanceTimersByTime(1_000);
  expect(told).toHaveLength(1);
});

test('where nobody is to be told nothing is watched', () => {
  render(<List ids={['a']} active={false} />);
  expect(watched).toEqual([]);
});
