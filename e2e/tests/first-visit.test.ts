import { By } from 'selenium-webdriver';
import { startBrowser, type Browser } from '../src/browser';
import { byText, Person } from '../src/person';
import { Server } from '../src/server';

let server: Server;
let browser: Browser;
const { click, see, seeText, until, violations, write } = new Person(() => browser);

beforeAll(async () => {
  // It says it can be reached from elsewhere, and nobody has given it a password.
  server = await new Server().start({ YUCCA_HOST: '0.0.0.0' });
  browser = await startBrowser();
});
afterAll(async () => {
  await browser.quit();
  await server.leave();
});

const codeInLog = (): string => /with the code (\S+)/.exec(server.printed)![1]!;
const codeField = By.css('input[name="code"]');
const passwordField = By.css('input[name="password"]');

async function submit(...fields: [By, string][]): Promise<void> {
  for (const [field, text] of fields) await write(field, text);
  await click(By.css('form button'));
}

test('the first visitor sets the password with the code of the log, and no other code will do', async () => {
  await browser.get(`${server.base}/keys`);
  await seeText('Set the password of the studio');
  expect(await violations()).toEqual([]);
  await submit([codeField, 'AAAA-BBBB-CCCC'], [passwordField, 'quill and brook']);
  await seeText('That is not the code in the log of this start.');
  await submit([codeField, codeInLog()], [passwordField, 'short']);
  await seeText('A password needs 10 characters or more.');
  await submit([codeField, codeInLog().toLowerCase()], [passwordField, 'quill and brook']);
  // It leads on to where the visitor wanted to go.
  await until(async () => (await browser.getCurrentUrl()) === `${server.base}/keys`);
  await see(byText('h1', 'Keys'));
});

test('the password, not the code, opens the studio to the next visitor', async () => {
  await browser.manage().deleteAllCookies();
  await browser.get(`${server.base}/`);
  await seeText('Sign in to the studio');
  expect(await browser.findElements(codeField)).toHaveLength(0);
  await submit([passwordField, 'brook and quill']);
  await seeText('That is not the password.');
  await submit([passwordField, 'quill and brook']);
  await until(async () => (await browser.getCurrentUrl()) === `${server.base}/`);
});
