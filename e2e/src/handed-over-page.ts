import { By, Key, type WebElement } from 'selenium-webdriver';
import type { Browser } from './browser';
import { Person } from './person';

/** A page as it was taken away, open in a browser: what stands on it, and what must work on every one. */
export class HandedOverPage {
  readonly #of: () => Browser;
  readonly #wait: Person['until'];

  constructor(of: () => Browser) {
    this.#of = of;
    this.#wait = new Person(of).until;
  }

  /** What stands on the page, in the tree of the element where there is one. */
  readonly all = async (css: string): Promise<WebElement[]> => {
    const [element] = await this.#of().findElements(By.css('yucca-search, yucca-search-field'));
    const tree = element ? await element.getShadowRoot() : this.#of();
    return tree.findElements(By.css(css));
  };

  readonly one = async (css: string): Promise<WebElement> => {
    await this.#wait(async () => (await this.all(css)).length > 0);
    return (await this.all(css))[0]!;
  };

  readonly click = async (css: string): Promise<void> => {
    await this.#wait(async () => {
      await (await this.one(css)).click();
      return true;
    });
  };

  readonly text = async (css: string): Promise<string> => (await this.one(css)).getText();
  readonly number = async (): Promise<number> =>
    Number((await this.text('[data-part=count] strong')).replace(/\D/g, ''));
  readonly address = (): Promise<string> => this.#of().getCurrentUrl();
  readonly firstRecord = async (): Promise<string> =>
    (await (await this.one('[data-part=card] h2 a')).getAttribute('href'))!;

  /**
   * What must work on every page: typing, a filter, Back, and the same again in another tab; the console has nothing to
   * say of it.
   */
  readonly use = async (base: string, mayLackFilters = false): Promise<void> => {
    const { all, one, text, number, address, problemsOf } = this;
    // What pages before this one said is theirs.
    await problemsOf();
    await this.#of().get(base);
    await this.#wait(async () => (await number()) > 0);
    const whole = await number();
    expect(await problemsOf()).toEqual([]);
    // A word of the first result.
    const word = /\p{L}{4,}/u.exec(await text('[data-part=card] h2'))![0];
    const field = await one('[role=combobox]');
    await field.sendKeys(word);
    await this.#wait(async () => (await number()) < whole && (await all('[data-part=card] mark')).length > 0);
    const found = await number();
    await this.#wait(async () => (await address()).includes(`q=${encodeURIComponent(word)}`));
    await field.sendKeys(Key.ENTER);
    const filters = await all('[data-part=facet] input[type=checkbox]');
    if (filters.length > 0) {
      await filters[0]!.click();
      await this.#wait(async () => (await all('[data-part=choice]')).length > 0);
      const chosen = await address();
      await this.#of().navigate().back();
      await this.#wait(async () => (await number()) === found && (await address()) !== chosen);
      await this.#inAnotherTab(chosen, async () => {
        await this.#wait(async () => (await all('[data-part=choice]')).length > 0);
        expect(await (await one('[role=combobox]')).getAttribute('value')).toBe(word);
      });
    } else expect(mayLackFilters).toBe(true);
    expect(await problemsOf()).toEqual([]);
  };

  /** Opens an address beside the page, as a middle click does, and comes back. */
  async #inAnotherTab(opened: string, look: () => Promise<void>): Promise<void> {
    const browser = this.#of();
    const here = await browser.getWindowHandle();
    // Nothing waits for its load to end: a page that never comes is told by what is missing in it.
    await browser.executeScript(`window.open(arguments[0], '_blank', 'noopener')`, opened);
    const other = async (): Promise<string | undefined> =>
      (await browser.getAllWindowHandles()).find((handle) => handle !== here);
    await this.#wait(async () => (await other()) !== undefined);
    try {
      await browser.switchTo().window((await other())!);
      await look();
    } finally {
      await browser.close();
      await browser.switchTo().window(here);
    }
  }

  /** What the browser's console says is wrong: scripts, policies, answers. The demo's pictures are not painted here. */
  readonly problemsOf = async (): Promise<string[]> => {
    const entries = await this.#of().manage().logs().get('browser');
    return entries.map(({ message }) => message).filter((message) => !/\/files\/|favicon/.test(message));
  };
}
