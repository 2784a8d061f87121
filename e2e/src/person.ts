import { writeFileSync } from 'node:fs';
import path from 'node:path';
import AxeBuilder from '@axe-core/webdriverjs';
import { By, Key, until, type WebElement } from 'selenium-webdriver';
import type { Browser } from './browser';

export const WAIT = 120_000;

export const byText = (tag: string, text: string): By => By.xpath(`//${tag}[contains(normalize-space(.), "${text}")]`);

/** What a person does in front of the browser; everything waits until it can be done. */
export class Person {
  readonly #browser: () => Browser;

  /** `browser` is asked for at every step, so that it may be started later. */
  constructor(browser: () => Browser) {
    this.#browser = browser;
  }

  see = (locator: By): Promise<WebElement> =>
    this.#wait((browser) => browser.wait(until.elementLocated(locator), WAIT));
  seeText = (text: string): Promise<WebElement> => this.see(byText('*', text));

  /** Clicks what is found there; what a page replaces between the look and the click is looked for again. */
  click = async (locator: By): Promise<void> => {
    await this.until(async () => {
      await (await this.see(locator)).click();
      return true;
    });
  };

  /** Presses the button with this text. */
  press = async (text: string): Promise<void> => {
    await this.until(async () => {
      await this.see(byText('button', text));
      // What lies on top comes last in the page.
      const buttons = await this.#browser().findElements(byText('button', text));
      await buttons.at(-1)!.click();
      return true;
    });
  };

  /** Waits until something holds; an element that was replaced meanwhile is looked for again. */
  until = (holds: () => Promise<boolean>): Promise<unknown> =>
    this.#wait((browser) =>
      browser.wait(async () => {
        try {
          return await holds();
        } catch (error) {
          if (['StaleElementReferenceError', 'ElementClickInterceptedError'].includes((error as Error).name))
            return false;
          throw error;
        }
      }, WAIT),
    );

  /** Waits; a failure says who did: the browser’s driver forgets it, and a message names one of many waits. */
  #wait<T>(wait: (browser: Browser) => PromiseLike<T>): Promise<T> {
    const waited = new Error('waited');
    return Promise.resolve(wait(this.#browser())).catch((error: Error) => {
      error.stack = `${error.name}: ${error.message}\n${waited.stack!.split('\n').slice(1).join('\n')}`;
      throw error;
    });
  }

  /** Replaces what stands in a field. */
  write = async (locator: By, text: string): Promise<void> => {
    await this.until(async () => {
      const field = await this.see(locator);
      await field.click();
      await field.sendKeys(Key.chord(Key.CONTROL, 'a'), text === '' ? Key.DELETE : text);
      return true;
    });
  };

  /** What an outside checker of accessibility finds wrong; `except`: a part that is checked by itself elsewhere. */
  violations = async (except?: string): Promise<string[]> => {
    for (let tries = 1; ; tries++)
      try {
        return (await this.#checker(except).analyze()).violations.map(({ id, nodes }) => `${id}: ${nodes[0]!.html}`);
      } catch (error) {
        // The checker gives a page that is still loading something one second: too little for a busy machine.
        if ((error as Error).name !== 'TimeoutError' || tries === 3) throw error;
      }
  };

  #checker(except: string | undefined): AxeBuilder {
    const checker = new AxeBuilder(this.#browser());
    return except === undefined ? checker : checker.exclude(except);
  }

  /** Drops files on the window, the way a person does: real files, real drag events. */
  drop = async (...files: string[]): Promise<void> => {
    const browser = this.#browser();
    const input = await browser.executeScript<WebElement>(`
      const input = document.createElement('input');
      input.type = 'file'; input.multiple = true; input.id = 'dropped';
      document.body.append(input);
      return input;`);
    await input.sendKeys(files.join('\n'));
    await browser.executeScript(`
      const input = document.getElementById('dropped');
      const data = new DataTransfer();
      for (const file of input.files) data.items.add(file);
      input.remove();
      for (const type of ['dragenter', 'dragover', 'drop'])
        document.body.dispatchEvent(new DragEvent(type, { dataTransfer: data, bubbles: true, cancelable: true }));`);
  };
}

/** Writes a file and returns its path. */
export function fileIn(folder: string, name: string, content: string | Buffer): string {
  const full = path.join(folder, name);
  writeFileSync(full, content);
  return full;
}
