import { writeFileSync } from 'node:fs';
import { By, until } from 'selenium-webdriver';
import { setSize, setTheme, startBrowser } from './browser';
async function main() {
  const browser = await startBrowser();
  const list = process.argv.slice(2);
  for (const item of list) {
    const [name, path, wait = 'main', theme = 'light', w = '1280', h = '800'] = item.split('|');
    await setSize(browser, Number(w), Number(h));
    await setTheme(browser, theme as 'dark');
    await browser.get('http://127.0.0.1:4310' + path);
    await browser.wait(until.elementLocated(By.css(wait)), 10000).catch(() => console.log('no', wait));
    await browser.sleep(900);
    writeFileSync(`/tmp/shot-${name}.png`, await browser.takeScreenshot(), 'base64');
  }
  await browser.quit();
}
void main();
