/** @jest-environment jsdom */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { LINES, NetworkLens, overLine, RequestLog, type Line } from '../src/lens/index.ts';
import { lastBurst } from '../src/react/lens/network-lens.tsx';

const lineOf = (name: string): Line => LINES.find((line) => line.name === name)!;

/** A log in which "ro" was overtaken by "rose", and "ro" was then known already. */
function someLog(): RequestLog {
  const log = new RequestLog();
  log.hear({ kind: 'start', id: 1, at: 1000, path: '/collections/plants/search?q=ro', text: 'ro' });
  log.hear({ kind: 'start', id: 2, at: 1080, path: '/collections/plants/search?q=rose', text: 'rose' });
  log.hear({ kind: 'end', id: 1, at: 1081, outcome: 'cancelled', bytes: 0 });
  log.hear({ kind: 'head', id: 2, at: 1300, status: 200, timing: 'engine;dur=0.4, total;dur=1.9' });
  log.hear({ kind: 'end', id: 2, at: 1400, outcome: 'done', bytes: 24_000 });
  log.hear({ kind: 'start', id: 3, at: 1500, path: '/collections/plants/search?q=ro', text: 'ro' });
  log.hear({ kind: 'end', id: 3, at: 1500, outcome: 'cached', bytes: 0 });
  return log;
}

test('the log knows each request from its start to its end', () => {
  const [first, second] = someLog().snapshot();
  expect(first).toMatchObject({ what: 'search', text: 'ro', start: 1000, head: null, end: 1081, outcome: 'cancelled' });
  expect(second).toMatchObject({ head: 1300, end: 1400, bytes: 24_000, engineMs: 0.4, serverMs: 1.9, outcome: 'done' });
});

test('the log keeps the newest, and tells who listens', () => {
  const log = new RequestLog(2);
  let told = 0;
  const stop = log.subscribe(() => told++);
  for (let id = 1; id <= 3; id++) log.hear({ kind: 'start', id, at: id, path: '/search', text: '' });
  expect(log.snapshot().map(({ id }) => id)).toEqual([2, 3]);
  stop();
  log.clear();
  expect([told, log.snapshot().length]).toEqual([3, 0]);
});

test('a pause in typing begins a new picture', () => {
  const log = someLog();
  log.hear({ kind: 'start', id: 4, at: 9000, path: '/search', text: 'fern' });
  expect(lastBurst(log.snapshot()).map(({ id }) => id)).toEqual([4]);
});

test('bars lie where the requests were, and say in words what became of them', async () => {
  const chosen: string[] = [];
  render(<NetworkLens log={someLog()} line={lineOf('fast')} onLine={({ name }) => chosen.push(name)} />);
  expect(screen.getByText('3 requests, 1 overtaken, 1 known already')).toBeTruthy();
  const rows = screen.getAllByRole('row').slice(1);
  expect(rows.map((row) => row.textContent)).toEqual([
    'rosearchovertaken, cancelled',
    'rosesearch320 ms0.4 ms24,000',
    'rosearchknown already',
  ]);
  const bar = rows[1]!.querySelector<HTMLElement>('[data-part=waiting]')!;
  // 80 of 500 ms after the first, 220 of 500 ms long.
  expect([bar.style.left, bar.style.width]).toEqual(['16%', '44%']);
  await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Line' }), 'slow 3G');
  expect(chosen).toEqual(['slow-3g']);
});

test('the two ways to the first results are measured on demand; a failure is said', async () => {
  let fails = false;
  const measure = async () => {
    if (fails) throw new Error('The page holds no results to wait for.');
    return { server: { ms: 420, bytes: 60_000, requests: 1 }, browser: { ms: 1710, bytes: 90_000, requests: 4 } };
  };
  render(<NetworkLens log={new RequestLog()} line={lineOf('4g')} onLine={() => {}} measure={measure} />);
  await userEvent.click(screen.getByRole('button', { name: 'Measure first results' }));
  expect(screen.getByRole('status').textContent).toBe(
    'in the HTML 420 ms (1 request, 60 kB), drawn in the browser 1,710 ms (4 requests, 90 kB)',
  );
  fails = true;
  await userEvent.click(screen.getByRole('button', { name: 'Measure first results' }));
  expect(screen.getByRole('status').textContent).toContain('no results');
});

test('a line that is down is what fetch says of one, and a request can be cancelled while it waits', async () => {
  const send = jest.fn();
  await expect(overLine(send, () => lineOf('down'))('/x')).rejects.toThrow(TypeError);
  const abort = new AbortController();
  const waiting = overLine(send, () => lineOf('slow-3g'))('/x', { signal: abort.signal });
  abort.abort();
  await expect(waiting).rejects.toMatchObject({ name: 'AbortError' });
  expect(send).not.toHaveBeenCalled();
});
