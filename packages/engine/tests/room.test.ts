import { GrowingArray } from '../src/bytes/growing-array.ts';
import { room } from '../src/bytes/room.ts';

test('an array of any length is all zeros, and as long as was asked for', () => {
  for (const length of [0, 1, 262_143, 262_144, 300_001])
    for (const Type of [Uint8Array, Uint16Array, Uint32Array, Int32Array, Float64Array]) {
      const numbers = room(Type as typeof Uint32Array, length);
      expect([numbers.constructor, numbers.length]).toEqual([Type, length]);
      expect(numbers.every((number) => number === 0)).toBe(true);
    }
});

test('where the system has no addresses left, it is made in the ordinary way', () => {
  const memory = jest.spyOn(WebAssembly, 'Memory').mockImplementation(() => {
    throw new RangeError('could not allocate memory');
  });
  expect(room(Uint32Array, 1_000_000)).toHaveLength(1_000_000);
  memory.mockImplementation(() => {
    throw new TypeError('something else');
  });
  expect(() => room(Uint32Array, 1_000_000)).toThrow('something else');
  memory.mockRestore();
});

test('an array that grows past the border between both keeps what it holds', () => {
  const numbers = new GrowingArray(Uint32Array);
  for (let i = 0; i < 600_000; i++) numbers.push(i);
  expect(numbers.view().every((number, i) => number === i)).toBe(true);
});

/** By how many megabytes the process is larger after many arrays of 4 MB, with small ones that stay between them. */
async function left(): Promise<number> {
  const before = process.memoryUsage.rss();
  const stay: Uint8Array[] = [];
  const go: Uint32Array[] = [];
  for (let i = 0; i < 100; i++) {
    go.push(room(Uint32Array, 1_000_000).fill(1));
    stay.push(new Uint8Array(100_000).fill(1));
  }
  go.length = 0;
  // Until all of them have been collected.
  for (let i = 0; i < 150; i++) {
    room(Uint32Array, 1_000_000).fill(1);
    await new Promise((resolve) => setImmediate(resolve));
  }
  expect(stay).toHaveLength(100);
  return (process.memoryUsage.rss() - before) / 2 ** 20;
}

test('what was taken for a moment goes back to the system', async () => {
  expect(await left()).toBeLessThan(200);
});
