/** @jest-environment node */
import { readdirSync, readFileSync } from 'node:fs';
import { House } from './house';

/** How nice each thread of this process is, the first one in front, as the kernel says it (proc(5), the 19th field). */
function niceness(): number[] {
  const folder = '/proc/self/task';
  return readdirSync(folder).flatMap((thread) => {
    try {
      return Number(readFileSync(`${folder}/${thread}/stat`, 'utf8').split(') ').at(-1)!.split(' ')[16]);
    } catch (error) {
      // It has ended meanwhile.
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return [];
      throw error;
    }
  });
}

test('threads that build an index give way to those that answer; those that show what was written do not', async () => {
  const usual = niceness()[0]!;
  const house = await new House({ YUCCA_BUILDERS: '2' }).open();
  try {
    await house.yucca.collections.create({ name: 'plants' });
    const rows = Array.from({ length: 20_000 }, (_, i) => `P-${i},Lady fern number ${i}`);
    let isOver = false;
    const load = house.load('plants', `id,name\n${rows.join('\n')}\n`, 'text/csv').finally(() => (isOver = true));
    let most = 0;
    while (!isOver) {
      most = Math.max(most, niceness().filter((nice) => nice > usual).length);
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
    await load;
    expect(most).toBeGreaterThan(0);
    expect(most).toBeLessThanOrEqual(3);
    expect(niceness()[0]).toBe(usual);
    expect((await house.search('plants', 'fern')).total).toBe(20_000);
  } finally {
    await house.leave();
  }
});
