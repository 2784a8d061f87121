import { mkdtempSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Builder, type WebDriver } from 'selenium-webdriver';
import { Options, ServiceBuilder, type Driver } from 'selenium-webdriver/chrome.js';

export type Browser = WebDriver & Driver;

/**
 * Starts headless Chromium with a page of exactly this size. `hosts`: names that lead to an address of this machine.
 */
export async function startBrowser({
  width = 1280,
  height = 800,
  javascript = true,
  dark = false,
  hosts = {} as Record<string, string>,
} = {}): Promise<Browser> {
  const options = new Options();
  options.setChromeBinaryPath(process.env.CHROME_PATH ?? '/usr/bin/chromium');
  const profile = mkdtempSync(path.join(tmpdir(), 'yucca-chromium-'));
  options.addArguments(
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-dev-shm-usage',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--force-device-scale-factor=1',
    `--window-size=${width},${height}`,
    `--user-data-dir=${profile}`,
  );
  const rules = Object.entries(hosts).map(([name, address]) => `MAP ${name} ${address}`);
  if (rules.length > 0) options.addArguments(`--host-resolver-rules=${rules.join(', ')}`);
  if (!javascript) options.setUserPreferences({ 'profile.managed_default_content_settings.javascript': 2 });
  const browser = (await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new ServiceBuilder(process.env.CHROMEDRIVER_PATH ?? '/usr/bin/chromedriver'))
    .build()) as Browser;
  const quit = browser.quit.bind(browser);
  browser.quit = async () => {
    await quit();
    // Its processes may still be writing when it says that it has ended.
    await rm(profile, { recursive: true, force: true, maxRetries: 10 });
  };
  await setSize(browser, width, height);
  if (dark) await setTheme(browser, 'dark');
  return browser;
}

export async function setSize(browser: Browser, width: number, height: number): Promise<void> {
  await browser.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
    width,
    height,
    deviceScaleFactor: 1,
    mobile: false,
  });
}

/** What pages say by `sendBeacon` from the next page on, until `stop`. It is sent all the same. */
export async function hearBeacons(browser: Browser): Promise<{
  told: () => Promise<{ address: string; body: string; sent: boolean }[]>;
  stop: () => Promise<void>;
}> {
  const { identifier } = (await browser.sendAndGetDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', {
    source: `window.told = []; const real = navigator.sendBeacon.bind(navigator);
      navigator.sendBeacon = (address, body) => {
        const sent = real(address, body);
        window.told.push({ address, body, sent });
        return sent;
      };`,
  })) as unknown as { identifier: string };
  return {
    told: () => browser.executeScript('return window.told ?? []'),
    stop: () => browser.sendDevToolsCommand('Page.removeScriptToEvaluateOnNewDocument', { identifier }),
  };
}

export async function setTheme(browser: Browser, theme: 'light' | 'dark'): Promise<void> {
  await browser.sendDevToolsCommand('Emulation.setEmulatedMedia', {
    features: [{ name: 'prefers-color-scheme', value: theme }],
  });
}

/** How far a page has moved under its reader since it was opened (Layout Instability, W3C): the sum of all shifts. */
export const shiftsOf = (browser: Browser): Promise<number> =>
  browser.executeAsyncScript(`const done = arguments[0];
    let sum = 0;
    new PerformanceObserver((list) => {
      for (const { value, hadRecentInput } of list.getEntries()) if (!hadRecentInput) sum += value;
    }).observe({ type: 'layout-shift', buffered: true });
    setTimeout(() => done(sum), 300);`);
