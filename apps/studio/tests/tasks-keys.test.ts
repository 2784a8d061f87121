import { House } from './house';

let house: House;
beforeAll(async () => void (house = await new House().open()));
afterAll(() => house.leave());

describe('tasks', () => {
  test('a task is watched from its beginning to its end', async () => {
    const { tasks } = house.yucca;
    const states: string[] = [];
    tasks.begin('t1', 'load', 'plants', () => {});
    const stop = tasks.watch('t1', ({ state, done }) => states.push(`${state} ${done}`));
    tasks.update('t1', { done: 5 });
    tasks.end('t1', { state: 'done', done: 9 });
    stop();
    expect(states).toEqual(['running 5', 'done 9', 'done 9']);
    expect(tasks.get('t1')).toMatchObject({ state: 'done', done: 9, step: '' });
    expect(tasks.get('t1').endedAt).not.toBeNull();
    tasks.update('t1', { done: 100 });
    expect(tasks.get('t1').done).toBe(9);
  });

  test('an id is used once; an unknown one is not found; cancelling asks the work to stop', () => {
    const { tasks } = house.yucca;
    let asked = 0;
    tasks.begin('t2', 'load', 'plants', () => asked++);
    expect(() => tasks.begin('t2', 'load', 'plants', () => {})).toThrow('already');
    expect(() => tasks.begin('t1', 'load', 'plants', () => {})).toThrow('already');
    expect(() => tasks.get('t9')).toThrow('no task');
    tasks.cancel('t2');
    tasks.end('t2', { state: 'cancelled' });
    tasks.cancel('t2');
    expect(asked).toBe(1);
  });

  test('what ran when the process died is over after the restart, with a sentence', async () => {
    house.yucca.tasks.begin('t3', 'load', 'guides', () => {});
    await house.reopen();
    expect(house.yucca.tasks.get('t3')).toMatchObject({
      state: 'failed',
      step: 'interrupted',
      errors: [{ detail: expect.stringContaining('kept') as string }],
    });
    expect(house.yucca.tasks.list('guides').map(({ id }) => id)).toEqual(['t3']);
    expect(house.yucca.tasks.list(null).length).toBeGreaterThanOrEqual(3);
  });
});

describe('keys', () => {
  test('the fixed admin key, made keys, and nobody else', () => {
    const { keys } = house.yucca;
    expect(keys.bySecret('test-key')).toMatchObject({ rights: ['admin'] });
    const { key, secret } = keys.create({ label: 'Shop', rights: ['search'] });
    expect(keys.bySecret(secret)).toMatchObject({ label: 'Shop', rights: ['search'], collections: null, filter: null });
    expect(() => keys.bySecret(`${secret}x`)).toThrow('not known');
    keys.remove(key.id);
    expect(() => keys.bySecret(secret)).toThrow('not known');
  });

  test('secrets are nowhere in the database but for the public one of the search pages', () => {
    const { keys, db } = house.yucca;
    const { secret } = keys.create({ label: 'Hidden', rights: ['write'] });
    const everything = ['keys', 'settings']
      .map((table) => JSON.stringify(db.$client.prepare(`select * from ${table}`).all()))
      .join('');
    expect(everything).not.toContain(secret);
    expect(everything).not.toContain('test-key');
    expect(everything).toContain(keys.pageKey());
  });

  test('the key of the search pages stays the same over a restart', async () => {
    const before = house.yucca.keys.pageKey();
    await house.reopen();
    expect(house.yucca.keys.pageKey()).toBe(before);
    expect(house.yucca.keys.bySecret(before).rights).toEqual(['search']);
  });
});
