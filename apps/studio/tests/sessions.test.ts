import { Clock } from '../src/server/clock';
import { Sessions, sessionCookie } from '../src/server/sessions/sessions';
import { House } from './house';

let house: House;
beforeAll(async () => void (house = await new House().open()));
afterAll(() => house.leave());

test('the first visitor sets the password with the code of the log, once', async () => {
  const sessions = new Sessions({ db: house.yucca.db, password: null, clock: new Clock() });
  expect(sessions.hasPassword).toBe(false);
  await expect(sessions.setPassword('', 'long enough it is')).rejects.toThrow('not the code');
  const code = sessions.makeCode();
  await expect(sessions.setPassword(code, 'short')).rejects.toThrow('10 characters');
  const cookie = await sessions.setPassword(code.toLowerCase(), 'long enough it is');
  expect(sessions.isSignedIn(cookie)).toBe(true);
  await expect(sessions.setPassword(code, 'another long one')).rejects.toThrow('already');
  await expect(sessions.signIn('long enough it was')).rejects.toThrow('not the password');
  expect(sessions.isSignedIn(await sessions.signIn('long enough it is'))).toBe(true);
  sessions.signOut(cookie);
  expect(sessions.isSignedIn(cookie)).toBe(false);
  expect(JSON.stringify(house.yucca.db.$client.prepare('select * from settings').all())).not.toContain('long enough');
});

test('a password of the environment; guesses are counted; cookies made up are worthless', async () => {
  const sessions = new Sessions({ db: house.yucca.db, password: 'from the environment', clock: new Clock() });
  const cookie = await sessions.signIn('from the environment');
  expect(sessions.isSignedIn(cookie)).toBe(true);
  expect(sessions.isSignedIn(`${cookie}x`)).toBe(false);
  expect(sessions.isSignedIn(undefined)).toBe(false);
  for (let i = 0; i < 10; i++) await expect(sessions.signIn('guess', '10.0.0.9')).rejects.toThrow('not the password');
  await expect(sessions.signIn('from the environment', '10.0.0.9')).rejects.toThrow('Too many');
  // Whoever guesses keeps nobody else out, and ends no session.
  expect(sessions.isSignedIn(await sessions.signIn('from the environment', '10.0.0.8'))).toBe(true);
  expect(sessions.isSignedIn(cookie)).toBe(true);
  house.yucca.db.$client.prepare(`update sessions set expires_at = '2001-01-01'`).run();
  expect(sessions.isSignedIn(cookie)).toBe(false);
});

test('the cookie is kept from scripts and from other sites', () => {
  expect(sessionCookie('abc', true)).toBe('yucca-session=abc; Path=/; Max-Age=1209600; HttpOnly; SameSite=Lax; Secure');
  expect(sessionCookie(null, false)).toContain('Max-Age=0');
});
