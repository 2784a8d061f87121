import { By, Key, type WebElement } from 'selenium-webdriver';
import type { Browser } from './browser';
import { Person } from './person';

/** A search page as a visitor uses it, whether it stands in the document or in an element's own tree. */
export class PageInUse {
  readonly #browser: () => Browser;
  readonly wait: Person['until'];

  constructor(browser: () => Browser) {
    this.#browser = browser;
    this.wait = new Person(browser).until;
  }

  /** What stands on the page, in the tree of the element where there is one. */
  async all(css: string): Promise<WebElement[]> {
    const [element] = await this.#browser().findElements(By.css('yucca-search, yucca-search-field'));
    const tree = element ? await element.getShadowRoot() : this.#browser();
    return tree.findElements(By.css(css));
  }

  async one(css: string): Promise<WebElement> {
    await this.wait(async () => (await this.all(css)).length > 0);
    return (await this.all(css))[0]!;
  }

  async text(css: string): Promise<string> {
    return (await this.one(css)).getText();
  }

  /** How many results there are. */
  async number(): Promise<number> {
    return Number((await this.text('[data-part=count] strong')).replace(/\D/g, ''));
  }

  address(): Promise<string> {
    return this.#browser().getCurrentUrl();
  }

  async firstRecord(): Promise<string> {
    return (await (await this.one('[data-part=card] h2 a')).getAttribute('href'))!;
  }

  /** Waits until the page tells a visitor something. */
  async said(part: string): Promise<void> {
    await this.wait(async () => {
      const places = await this.all('[role=status], [role=alert], [data-part=trouble]');
      return (await Promise.all(places.map((place) => place.getText()))).some((words) => words.includes(part));
    });
  }

  /**
   * What the browser's console says is wrong since it was last looked at: scripts, policies, answers. Pictures of the
   * demo are not painted here.
   */
  async problems(): Promise<string[]> {
    const entries = await this.#browser().manage().logs().get('browser');
    return entries.map(({ message }) => message).filter((message) => !/\/files\/|favicon/.test(message));
  }

  /** What must work on every page: typing, a filter, Back, the same in another tab. True when there was a filter. */
  async use(base: string): Promise<boolean> {
    const browser = this.#browser();
    // What pages before this one said is theirs.
    await this.problems();
    await browser.get(base);
    await this.wait(async () => (await this.number()) > 0);
    const whole = await this.number();
    expect(await this.problems()).toEqual([]);
    // A word of the first result, without its last letter and with all of what is known of typing.
    const word = /\p{L}{4,}/u.exec(await this.text('[data-part=card] h2'))![0];
    const field = await this.one('[role=combobox]');
    await field.sendKeys(word);
    await this.wait(async () => (await this.number()) < whole && (await this.all('[data-part=card] mark')).length > 0);
    const found = await this.number();
    await this.wait(async () => (await this.address()).includes(`q=${encodeURIComponent(word)}`));
    await field.sendKeys(Key.ENTER);
    const filters = await this.all('[data-part=facet] input[type=checkbox]');
    if (filters.length > 0) {
      await filters[0]!.click();
      await this.wait(async () => (await this.all('[data-part=choice]')).length > 0);
      const chosen = await this.address();
      await browser.navigate().back();
      await this.wait(async () => (await this.number()) === found && (await this.address()) !== chosen);
      await browser.switchTo().newWindow('tab');
      await browser.get(chosen);
      await this.wait(async () => (await this.all('[data-part=choice]')).length > 0);
      expect(await (await this.one('[role=combobox]')).getAttribute('value')).toBe(word);
      await browser.close();
      await browser.switchTo().window((await browser.getAllWindowHandles())[0]!);
    }
    expect(await this.problems()).toEqual([]);
    return filters.length > 0;
  }
}
