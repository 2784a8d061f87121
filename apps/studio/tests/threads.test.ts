import { Worker } from 'node:worker_threads';
import { isThreadLost, RemoteThread, ThreadOnDemand, type ThreadOptions } from '../src/server/workers/rpc';

/** A thread that answers with its own number, after a while when told so, and can be brought down in every way. */
const SOURCE = `
  const { parentPort, threadId, workerData } = require('node:worker_threads');
  setInterval(() => Atomics.add(workerData.pulse, 0, 1), 100).unref();
  parentPort.on('message', ({ call, method, args }) => {
    if (method === 'die') process.exit(3);
    if (method === 'throw') throw new Error('on purpose');
    if (method === 'hang') for (;;);
    setTimeout(() => parentPort.postMessage({ reply: call, value: threadId }), args[0] ?? 0);
  });`;
type Methods = { who: (waitMs?: number) => number; die: () => void; throw: () => void; hang: () => void };

const lost: string[] = [];
beforeEach(() => void lost.splice(0));
const options = (more: Partial<ThreadOptions> = {}): ThreadOptions => ({
  name: 'test',
  spawn: (pulse) => new Worker(SOURCE, { eval: true, workerData: { pulse } }),
  onLost: ({ message }) => lost.push(message),
  ...more,
});
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks until there is an answer: a thread that died young is started again after a moment. */
async function soon(thread: RemoteThread<Methods>): Promise<number> {
  for (let tries = 0; ; tries++) {
    try {
      return await thread.call('who', []);
    } catch (error) {
      if (!isThreadLost(error) || tries === 50) throw error;
      await pause(50);
    }
  }
}

describe('a thread on demand', () => {
  test('the same thread does what comes close together; after a rest there is another', async () => {
    const thread = new ThreadOnDemand<Methods>(options(), 60);
    const first = await thread.call('who', []);
    expect(await thread.call('who', [])).toBe(first);
    await pause(200);
    expect(await thread.call('who', [])).not.toBe(first);
    await thread.terminate();
    // To rest is not to die.
    expect(lost).toEqual([]);
  });

  test('it does not rest while a call is under way', async () => {
    const thread = new ThreadOnDemand<Methods>(options(), 30);
    const long = thread.call('who', [200]);
    const short = await thread.call('who', []);
    expect(await long).toBe(short);
    await thread.terminate();
  });
});

describe('a thread that is lost', () => {
  test.each([
    ['ends', 'die', 'ended with code 3'],
    ['throws', 'throw', 'on purpose'],
  ] as const)('one that %s is replaced; its calls fail with what may be asked again', async (_, how, reason) => {
    const replaced = jest.fn();
    const thread = new RemoteThread<Methods>(options({ onReplaced: replaced }));
    const first = await thread.call('who', []);
    const waiting = thread.call('who', [5000]);
    await expect(thread.call(how, [])).rejects.toMatchObject({ code: 'unavailable', threadLost: true });
    await expect(waiting).rejects.toMatchObject({ code: 'unavailable' });
    expect(lost).toEqual([expect.stringContaining(reason)]);
    expect(await soon(thread)).not.toBe(first);
    expect([thread.replaced, replaced.mock.calls.length]).toEqual([1, 1]);
    await thread.terminate();
  });

  test('one that hangs is replaced after a while without a sign of life', async () => {
    const thread = new RemoteThread<Methods>(options({ hangMs: 2000 }));
    const first = await thread.call('who', []);
    await expect(thread.call('hang', [])).rejects.toThrow('no sign of life for 2 s');
    expect(await soon(thread)).not.toBe(first);
    await thread.terminate();
  });

  test('one that only waits is left alone, however long', async () => {
    const thread = new RemoteThread<Methods>(options({ hangMs: 1000 }));
    expect(await thread.call('who', [3500])).toBeGreaterThan(0);
    expect([thread.replaced, lost]).toEqual([0, []]);
    await thread.terminate();
  });

  test('a thread that dies again and again is started ever more slowly', async () => {
    let started = 0;
    const thread = new RemoteThread<Methods>(
      options({
        spawn: (pulse) => {
          started++;
          return new Worker('process.exit(1)', { eval: true, workerData: { pulse } });
        },
      }),
    );
    await pause(1000);
    expect(started).toBeGreaterThan(1);
    expect(started).toBeLessThan(8);
    await expect(thread.call('who', [])).rejects.toMatchObject({ code: 'unavailable' });
    await thread.terminate();
  });

  test('a message that cannot be sent fails alone', async () => {
    const thread = new RemoteThread<Methods>(options());
    await expect(thread.call('who', [(() => {}) as unknown as number])).rejects.toThrow('could not be cloned');
    expect(await thread.call('who', [])).toBeGreaterThan(0);
    await thread.terminate();
  });
});
