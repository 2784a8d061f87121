import { Worker } from 'node:worker_threads';
import { RemoteThread, ThreadOnDemand } from '../src/server/workers/rpc';

/** A thread that answers with its own number, after a while when told so. */
const SOURCE = `
  const { parentPort, threadId } = require('node:worker_threads');
  parentPort.on('message', ({ call, method, args }) => {
    if (method === 'die') process.exit(3);
    setTimeout(() => parentPort.postMessage({ reply: call, value: threadId }), args[0] ?? 0);
  });`;
type Methods = { who: (waitMs?: number) => number; die: () => void };

function onDemand(restMs: number) {
  const deaths: string[] = [];
  const start = () => new RemoteThread<Methods>(new Worker(SOURCE, { eval: true }), undefined, ({ message }) => deaths.push(message)); // prettier-ignore
  return { deaths, thread: new ThreadOnDemand<Methods>(start, restMs) };
}
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

test('the same thread does what comes close together; after a rest there is another', async () => {
  const { thread, deaths } = onDemand(60);
  const first = await thread.call('who', []);
  expect(await thread.call('who', [])).toBe(first);
  await pause(200);
  expect(await thread.call('who', [])).not.toBe(first);
  await thread.terminate();
  // To rest is not to die.
  expect(deaths).toEqual([]);
});

test('it does not rest while a call is under way', async () => {
  const { thread } = onDemand(30);
  const long = thread.call('who', [200]);
  const short = await thread.call('who', []);
  expect(await long).toBe(short);
  await thread.terminate();
});

test('a thread that dies says so, fails its calls, and the next call has another', async () => {
  const { thread, deaths } = onDemand(1000);
  await expect(thread.call('die', [])).rejects.toThrow('ended with code 3');
  expect(deaths).toHaveLength(1);
  await thread.terminate();
  expect(await thread.call('who', [])).toBeGreaterThan(0);
  await thread.terminate();
});
