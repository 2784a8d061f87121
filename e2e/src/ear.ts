/** Whoever would hear sits at the browser’s maker: in its place a test says what was understood. */
import type { Browser } from './browser';

export class Ear {
  readonly #of: () => Browser;

  constructor(of: () => Browser) {
    this.#of = of;
  }

  /** On the page that is open, from here on. */
  async standIn(): Promise<void> {
    await this.#of().executeScript(`window.SpeechRecognition = class extends EventTarget {
      start() { window.ear = this; }
      abort() {}
      hear(transcript) {
        this.dispatchEvent(Object.assign(new Event('result'), { results: { 0: { 0: { transcript } , length: 1 }, length: 1 } }));
      }
    }`);
  }

  async hear(words: string): Promise<void> {
    await this.#of().executeScript('window.ear.hear(arguments[0])', words);
  }

  /** There was a pause. */
  async end(): Promise<void> {
    await this.#of().executeScript(`window.ear.dispatchEvent(new Event('end'))`);
  }
}
