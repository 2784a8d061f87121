import type { Collection, SearchAnswer, Task } from '@yucca/contract';
import { Server, somePlants } from '../src/server';

let server: Server;
beforeAll(async () => void (server = await new Server().start()));
afterAll(() => server.leave());

test('killed in the middle of a load, every acknowledged record is there and searchable after the restart', async () => {
  await server.call('POST', '/collections', { name: 'plants' });
  const id = '00000000-0000-4000-8000-0000000000aa';
  const rows = somePlants(60_000);
  const encoder = new TextEncoder();
  let at = 0;
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      if (at >= rows.length) return controller.close();
      controller.enqueue(
        encoder.encode(
          rows
            .slice(at, (at += 200))
            .map((row) => `${JSON.stringify(row)}\n`)
            .join(''),
        ),
      );
    },
  });
  const load = fetch(`${server.base}/api/v1/collections/plants/records?task=${id}`, {
    method: 'POST',
    body,
    duplex: 'half',
    headers: { Authorization: `Bearer ${server.adminKey}`, 'Content-Type': 'application/x-ndjson' },
  } as RequestInit).catch(() => null);
  let acknowledged = 0;
  while (acknowledged < 3000) {
    const response = await server.call('GET', `/tasks/${id}`);
    if (response.ok) acknowledged = ((await response.json()) as { task: Task }).task.done;
  }
  await server.stop('SIGKILL');
  await load;
  expect(acknowledged).toBeLessThan(60_000);
  await server.start();
  const { records } = await server.json<Collection>('GET', '/collections/plants');
  expect(records).toBeGreaterThanOrEqual(acknowledged);
  // What was written last is found as soon as anything is; all of it once the server says so.
  await server.ready();
  const answer = await server.call('GET', '/collections/plants/search?size=1');
  expect(((await answer.json()) as SearchAnswer).total).toBe(records);
  for (const n of [1, Math.floor(acknowledged / 2), acknowledged]) {
    const key = `P-${String(n).padStart(3, '0')}`;
    expect((await server.call('GET', `/collections/plants/records/${key}`)).status).toBe(200);
    expect(
      (await server.json<SearchAnswer>('GET', `/collections/plants/search?q=${n}`)).results.map((result) => result.id),
    ).toContain(key);
  }
  const { task } = await server.json<{ task: Task }>('GET', `/tasks/${id}`);
  expect(task).toMatchObject({ state: 'failed', step: 'interrupted' });
  expect(task.errors.at(-1)!.detail).toMatch(/kept/);
});

test('killed right after a write was answered, the write is there', async () => {
  await server.call('PUT', '/collections/plants/records/last', { name: 'the very last orchid' });
  await server.stop('SIGKILL');
  await server.start();
  let answer = await server.call('GET', '/collections/plants/search?q=orchid');
  for (; answer.status === 503; answer = await server.call('GET', '/collections/plants/search?q=orchid'))
    await new Promise((resolve) => setTimeout(resolve, 50));
  expect(((await answer.json()) as SearchAnswer).results.map(({ id }) => id)).toEqual(['last']);
});
