/** Pages: the strictest policy that works, and data that nobody expects on them. */
import { By, Key } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { Person } from '../src/person';
import { loadPlants, Server, somePlants } from '../src/server';

let server: Server;
let browser: Browser;
const { see, seeText, press, until } = new Person(() => browser);

beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants', somePlants(60));
  browser = await startBrowser();
  await browser.sendAndGetDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', {
    source: `window.refused = [];
      document.addEventListener('securitypolicyviolation', (event) =>
        window.refused.push(event.violatedDirective + ' ' + event.blockedURI + ' ' + event.sourceFile + ' ' + event.sample));`,
  });
});
afterAll(async () => {
  await browser.quit();
  await server.leave();
});

const open = (route: string): Promise<void> => browser.get(server.base + route);
/** What the policy of the page refused: nothing, on a page of ours. */
const refused = (): Promise<string[]> => browser.executeScript('return window.refused');

test('nothing on any screen of the studio is refused by its policy', async () => {
  for (const route of [
    '/',
    '/c/plants/records',
    '/c/plants/records?view=profile',
    '/c/plants/fields',
    '/c/plants/tuning',
    '/c/plants/judgements',
    '/keys',
    '/keys/audit',
    '/api',
    '/sign-in',
    '/nothing',
  ]) {
    await open(route);
    await until(async () => (await browser.executeScript('return document.readyState')) === 'complete');
    await browser.sleep(300);
    expect([route, await refused()]).toEqual([route, []]);
  }
});

test('nor what opens on them: the editor, dialogs, the theme', async () => {
  await open('/c/plants/records?record=P-001');
  await press('JSON');
  await see(By.css('.cm-content'));
  // Its own style sheet is there: without it the lines have no gutter beside them.
  expect(await browser.executeScript(`return getComputedStyle(document.querySelector('.cm-gutters')).display`)).toBe(
    'flex',
  );
  expect(await refused()).toEqual([]);
  await browser.actions().sendKeys(Key.ESCAPE).perform();
  await open('/');
  await (await see(By.css('button[aria-label="Delete Plants"]'))).click();
  await seeText('to go on');
  expect(await refused()).toEqual([]);
});

test('nor on a search page, while somebody types, chooses and opens a record', async () => {
  await open('/s/plants?lens=1');
  await (await see(By.css('[role=combobox]'))).sendKeys('lavender');
  await until(async () => (await (await see(By.css('#results [data-part=count]'))).getText()).includes('lavender'));
  expect(await refused()).toEqual([]);
  await open('/s/plants/r/P-001');
  await see(By.css('h1'));
  expect(await refused()).toEqual([]);
});

test('a script that got into a page would not run', async () => {
  await open('/s/plants');
  await browser.executeScript(
    `const script = document.createElement('script'); script.textContent = 'window.ran = true'; document.body.append(script);`,
  );
  expect([await browser.executeScript('return window.ran ?? false'), (await refused()).length]).toEqual([false, 1]);
});

test('headers of pages: no frame, no guess, no more than it needs', async () => {
  for (const [route, ancestors] of [
    ['/', "'none'"],
    ['/s/plants', "'self'"],
  ] as const) {
    const { headers } = await fetch(server.base + route);
    expect(headers.get('content-security-policy')).toContain(`frame-ancestors ${ancestors}`);
    expect(headers.get('content-security-policy')).not.toMatch(/script-src[^;]*unsafe/);
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('referrer-policy')).toBeTruthy();
    expect(headers.get('permissions-policy')).toContain('camera=()');
    const nonce = /'nonce-([^']+)'/.exec(headers.get('content-security-policy')!)![1];
    expect((await fetch(server.base + route)).headers.get('content-security-policy')).not.toContain(nonce!);
  }
});

test('odd records, hosts and addresses: a page each time', async () => {
  const odd = [
    { id: '100%', name: 'a key with a percent sign', image: 'https://' },
    { id: '%E0%A4%A', name: 'a key like a broken escape', image: 'http://[' },
    {
      id: '"><script>alert(1)</script>',
      name: '</script><script>window.ran = true</script>',
      image: 'javascript:alert(1)',
    },
    { id: 'x'.repeat(500), name: '\u202eright to left \u0000 and nothing', image: '//' },
    { id: 'a/b?c#d', name: 'كلمة', image: 'data:image/svg+xml,<svg onload="alert(1)"/>' },
  ];
  await server.api('POST', '/collections', { name: 'odd' });
  await server.api('POST', '/collections/odd/records?wait=true', odd);
  for (const { id } of odd) expect([id.slice(0, 20), (await fetch(`${server.base}/s/odd/r/${encodeURIComponent(id)}`)).status]).toEqual([id.slice(0, 20), 200]); // prettier-ignore
  for (const headers of [
    { 'X-Forwarded-Proto': 'javascript' },
    { 'X-Forwarded-Host': 'evil.example' },
    { 'X-Forwarded-Proto': 'https, http' },
  ] as Record<string, string>[]) {
    const response = await fetch(`${server.base}/s/odd`, { headers });
    expect(response.status).toBe(200);
    expect(await response.text()).not.toMatch(/javascript:\/\/|evil\.example/);
  }
  await open('/s/odd');
  expect(await browser.executeScript('return window.ran ?? false')).toBe(false);
});

test('a placement leads to the web or to a path of this server, and nowhere else', async () => {
  const to = async (redirect: string): Promise<string | null> => {
    await server.api('PUT', '/collections/plants/tuning/draft', {
      placements: [{ name: 'go', when: { query: 'away' }, redirect }],
    });
    await server.api('POST', '/collections/plants/tuning/publish', {});
    const response = await fetch(`${server.base}/s/plants?q=away`, { redirect: 'manual' });
    return response.status === 307 ? response.headers.get('location') : null;
  };
  expect(await to('https://shop.example/sale')).toBe('https://shop.example/sale');
  expect(await to('/s/plants?q=rose')).toBe('/s/plants?q=rose');
  for (const redirect of [
    '/\\evil.example',
    '//evil.example',
    '/\t/evil.example',
    'javascript:alert(1)',
    'data:text/html,x',
    ' https://evil.example',
    'https:\\\\evil.example',
    '\\\\evil.example',
  ])
    expect([redirect, await to(redirect)]).toEqual([redirect, null]);
});
