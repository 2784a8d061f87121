import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, request as forward } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { Ear } from '../src/ear';
import { otherSite, type OtherSite } from '../src/other-site';
import { Person } from '../src/person';
import type { Server } from '../src/server';
import { shopServer, writePlainPage } from '../src/shop';

const away = mkdtempSync(path.join(tmpdir(), 'yucca-drop-in-'));
let server: Server;
let site: OtherSite;
let browser: Browser;
let key: string;
const { see, until: wait, violations } = new Person(() => browser);

beforeAll(async () => {
  server = await shopServer();
  site = await otherSite(away);
  const order = { label: 'Our shop', rights: ['search'], origins: [site.origin] };
  key = (await server.api<{ secret: string }>('POST', '/keys', order)).secret;
  writePlainPage(away, server, key);
  browser = await startBrowser();
});
afterAll(async () => {
  await browser?.quit();
  site?.close();
  await server?.leave();
  rmSync(away, { recursive: true, force: true });
});

/** Everything inside the element's shadow tree, as text. */
const inside = (css: string): Promise<string> =>
  browser.executeScript(
    `const found = document.querySelector('yucca-search')?.shadowRoot?.querySelector(${JSON.stringify(css)}); return found ? found.textContent : ''`,
  );

test('a plain HTML file of another site: one script, one element', async () => {
  await browser.get(`${site.origin}/plain.html?ref=newsletter`);
  await wait(async () => (await inside('[data-part=count] strong')) === '120');
  const shadow = await (await see(By.css('yucca-search'))).getShadowRoot();
  const field = await shadow.findElement(By.css('[role=combobox]'));
  await field.sendKeys('lavendar');
  await wait(async () => (await inside('[data-part=count] strong')) === '20');
  expect(await inside('article mark')).toBe('lavender');
  await wait(async () => (await browser.getCurrentUrl()) === `${site.origin}/plain.html?q=lavendar&ref=newsletter`);
  // A click inside the list of offers is no click beside it.
  await wait(async () => (await inside('[role=option]')) !== '');
  expect(await inside('[data-part=popup]:not([hidden])')).not.toBe('');
  // Not by way of the element: the driver would take the focus away and give it back first.
  await browser.actions().sendKeys(Key.ESCAPE).perform();
  await (await shadow.findElement(By.css('input[value=white]'))).click();
  await wait(async () => (await inside('[data-part=count] strong')) === '10');
  await browser.navigate().back();
  await wait(async () => (await inside('[data-part=count] strong')) === '20');
  expect(await violations()).toEqual([]);
});

/** The element on a page of the other site: what is before it in the body, and its attributes. */
const page = (...elements: string[]): string =>
  `<!doctype html><title>Shop</title><script src="${server.base}/yucca-search.js" defer></script>${elements.join('')}`;
const element = (more: string): string => `<yucca-search interface="nursery" key="${key}" ${more}></yucca-search>`;

/** A text inside the n-th element. */
const insideOf = (n: number, css: string): Promise<string> =>
  browser.executeScript(
    `return document.querySelectorAll('yucca-search')[${n}]?.shadowRoot?.querySelector(${JSON.stringify(css)})?.textContent ?? ''`,
  );

test('a site with the strictest policy: styled, searched, and nothing reported', async () => {
  writeFileSync(path.join(away, 'strict.html'), page(element('')));
  const policy = [
    "default-src 'none'",
    `script-src ${server.base}`,
    `connect-src ${server.base}`,
    `img-src ${server.base}`,
    "style-src 'self'",
    "base-uri 'none'",
    "form-action 'self'",
    "require-trusted-types-for 'script'",
    "trusted-types 'none'",
    'report-uri /reports',
  ].join('; ');
  site.headersOf['/strict.html'] = { 'Content-Security-Policy': policy };
  await browser.get(`${site.origin}/strict.html`);
  await wait(async () => (await inside('[data-part=count] strong')) === '120');
  const shadow = await (await see(By.css('yucca-search'))).getShadowRoot();
  expect(await (await shadow.findElement(By.css('[data-part=body]'))).getCssValue('display')).toBe('grid');
  const field = await shadow.findElement(By.css('[role=combobox]'));
  await field.sendKeys('laven');
  await wait(async () => (await inside('article mark')) === 'laven');
  // Offers come after the results, and without them Escape would empty the field.
  await wait(async () => (await field.getAttribute('aria-expanded')) === 'true');
  await browser.actions().sendKeys(Key.ESCAPE).perform();
  await (await shadow.findElement(By.css('input[value=white]'))).click();
  await wait(async () => (await inside('[data-part=count] strong')) === '10');
  expect(site.reports).toEqual([]);
});

test('where its design says so, a query can be spoken', async () => {
  const spoken = { slug: 'spoken', title: 'Spoken', collection: 'plants', typing: { voice: true } };
  await server.api('POST', '/interfaces', spoken);
  writeFileSync(path.join(away, 'spoken.html'), page(element('').replace('nursery', 'spoken')));
  await browser.get(`${site.origin}/spoken.html`);
  const ear = new Ear(() => browser);
  await ear.standIn();
  const shadow = await (await see(By.css('yucca-search'))).getShadowRoot();
  const button = 'button[aria-label="Search by voice"]';
  await wait(async () => (await shadow.findElements(By.css(button))).length > 0);
  await (await shadow.findElement(By.css(button))).click();
  await ear.hear('lavender');
  await wait(async () => (await inside('article mark')) === 'lavender');
  await ear.end();
  await wait(async () => (await browser.getCurrentUrl()).endsWith('?q=lavender'));
});

test('several searches on one page, each with its own part of the address or none', async () => {
  const elements = [element('address="left"'), element('address="right"'), element('address="none"')];
  writeFileSync(path.join(away, 'several.html'), page(...elements));
  await browser.get(`${site.origin}/several.html?right.q=fern&ref=newsletter`);
  const totals = (): Promise<string[]> => Promise.all([0, 1, 2].map((n) => insideOf(n, '[data-part=count] strong')));
  await wait(async () => (await totals()).join() === '120,20,120');
  const [left, , none] = await browser.findElements(By.css('yucca-search'));
  const type = async (into: typeof left, text: string): Promise<void> => {
    const field = await (await into!.getShadowRoot()).findElement(By.css('[role=combobox]'));
    await field.sendKeys(text);
  };
  await type(left, 'lavender');
  await wait(async () => (await browser.getCurrentUrl()).endsWith('?left.q=lavender&right.q=fern&ref=newsletter'));
  await type(none, 'agave');
  await wait(async () => (await totals())[2] !== '120');
  expect((await totals()).slice(0, 2)).toEqual(['20', '20']);
  expect(await browser.getCurrentUrl()).toMatch(/\?left\.q=lavender&right\.q=fern&ref=newsletter$/);
});

test('the site around hears of answers and opened results, and follows links in its own way', async () => {
  writeFileSync(path.join(away, 'events.html'), page(element('insights="off"')));
  await browser.get(`${site.origin}/events.html`);
  await browser.executeScript(`window.heard = [];
    for (const name of ['yucca-search', 'yucca-click', 'yucca-follow'])
      document.addEventListener(name, (event) => {
        event.preventDefault();
        const { href, id, position, request, answer } = event.detail;
        window.heard.push(href ? name + ' ' + href : request ? request.q + ' ' + answer.total : name + ' ' + id + ' ' + position);
      });`);
  const heard = (): Promise<string[]> => browser.executeScript('return window.heard');
  const shadow = await (await see(By.css('yucca-search'))).getShadowRoot();
  await wait(async () => (await inside('[data-part=count] strong')) === '120');
  const field = await shadow.findElement(By.css('[role=combobox]'));
  await field.sendKeys('fern');
  await wait(async () => (await heard()).includes('fern 20'));
  await wait(async () => (await field.getAttribute('aria-expanded')) === 'true');
  await browser.actions().sendKeys(Key.ESCAPE).perform();
  await wait(async () => (await browser.getCurrentUrl()).endsWith('?q=fern'));
  await (await shadow.findElement(By.css('article h2 a'))).click();
  await wait(async () => (await heard()).some((one) => one.startsWith('yucca-follow')));
  const [clicked, followed] = (await heard()).slice(-2);
  expect(clicked).toMatch(/^yucca-click P-\d+ 1$/);
  expect(followed).toBe(`yucca-follow ${server.base}/s/nursery/r/${clicked!.split(' ')[1]}`);
  expect(await browser.getCurrentUrl()).toBe(`${site.origin}/events.html?q=fern`);
});

test('a server that is down when the page is opened, and comes back', async () => {
  let isUp = false;
  const gate = createServer((request, response) => {
    if (!isUp) return void request.socket.destroy();
    const { hostname, port } = new URL(server.base);
    const { method, headers } = request;
    const on = forward({ hostname, port, path: request.url, method, headers }, (answer) => {
      response.writeHead(answer.statusCode!, answer.headers);
      answer.pipe(response);
    });
    request.pipe(on);
  });
  await new Promise<void>((resolve) => gate.listen(0, '127.0.0.1', resolve));
  const at = `http://127.0.0.1:${(gate.address() as { port: number }).port}`;
  writeFileSync(path.join(away, 'gate.html'), page(element(`server="${at}"`)));
  await browser.get(`${site.origin}/gate.html`);
  await wait(async () => (await inside('[role=status]')).startsWith('The search could not be reached'));
  isUp = true;
  // Nobody presses anything.
  await wait(async () => (await inside('[data-part=count] strong')) === '120');
  isUp = false;
  const shadow = await (await see(By.css('yucca-search'))).getShadowRoot();
  await (await shadow.findElement(By.css('[role=combobox]'))).sendKeys('fern');
  await wait(async () => (await inside('[role=alert] span')).includes('These are the last results'));
  const button = await (await shadow.findElement(By.css('[role=alert] button'))).getRect();
  expect(await inside('[data-part=count] strong')).toBe('120');
  await new Promise((resolve) => setTimeout(resolve, 3_000));
  // Through the tries it stays where it is.
  expect(await (await shadow.findElement(By.css('[role=alert] button'))).getRect()).toEqual(button);
  isUp = true;
  await wait(async () => (await inside('[data-part=count] strong')) === '20');
  gate.close();
});

test('its key serves this site and no other', async () => {
  const other = await fetch(`${server.base}/api/v1/interfaces/nursery/page?key=${key}`, {
    headers: { Origin: 'https://elsewhere.example' },
  });
  expect(other.status).toBe(403);
});
