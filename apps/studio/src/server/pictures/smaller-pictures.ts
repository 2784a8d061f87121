import { PICTURE_WIDTHS } from '@yucca/contract';
import { LRUCache } from 'lru-cache';
import type { Logger } from 'pino';
import type sharpModule from 'sharp';

/** What is kept of smaller pictures, in bytes: some thousand of them. They are made again in a moment. */
const KEPT_BYTES = 64 * 1024 * 1024;
/** Pictures with more pixels than this are sent as they are: unpacking one would take too much memory. */
const MOST_PIXELS = 50_000_000;
/** Pictures that may wait to be made; whoever comes behind them gets the picture as it is. */
const MOST_WAITING = 64;
/** Of WebP: nothing is to be seen of the loss at these widths. */
const QUALITY = 78;

type Sharp = typeof sharpModule;

/**
 * Pictures of the data folder in the widths that search pages show them in, as WebP. One is made at a time, outside of
 * the main thread: searches go before pictures.
 */
export class SmallerPictures {
  readonly #log: Pick<Logger, 'warn'>;
  readonly #made = new LRUCache<string, Buffer>({ maxSize: KEPT_BYTES, sizeCalculation: ({ length }) => length + 1 });
  readonly #making = new Map<string, Promise<Buffer | null>>();
  #last: Promise<unknown> = Promise.resolve();
  #sharp: Promise<Sharp | null> | undefined;

  constructor(log: Pick<Logger, 'warn'>) {
    this.#log = log;
  }

  /**
   * The picture `file` in a width of `PICTURE_WIDTHS`, never wider than it is. `changedAt`: when the file was written,
   * so that a new one is made of a new file. Null where none is made: another width, a drawing, an animation, a file
   * that is no picture, too many that wait; the file itself is the answer then.
   */
  async get(file: string, changedAt: number, width: number): Promise<Buffer | null> {
    if (!PICTURE_WIDTHS.some((one) => one === width) || /\.svg$/i.test(file)) return null;
    const key = `${width} ${changedAt} ${file}`;
    const made = this.#made.get(key);
    if (made !== undefined) return made.length === 0 ? null : made;
    const underWay = this.#making.get(key);
    if (underWay !== undefined) return underWay;
    if (this.#making.size >= MOST_WAITING) return null;
    const making = this.#last.then(() => this.#make(file, width));
    this.#making.set(key, making);
    this.#last = making;
    const bytes = await making;
    this.#making.delete(key);
    // What can't be made is not tried again at each request: an empty one stands for it.
    this.#made.set(key, bytes ?? Buffer.alloc(0));
    return bytes;
  }

  async #make(file: string, width: number): Promise<Buffer | null> {
    const sharp = await (this.#sharp ??= this.#load());
    if (sharp === null) return null;
    try {
      const picture = sharp(file, { limitInputPixels: MOST_PIXELS, sequentialRead: true });
      if (((await picture.metadata()).pages ?? 1) > 1) return null;
      return await picture
        .autoOrient()
        .resize({ width, withoutEnlargement: true })
        .webp({ quality: QUALITY })
        .toBuffer();
    } catch (error) {
      this.#log.warn({ file, reason: (error as Error).message }, 'No smaller picture can be made of this file');
      return null;
    }
  }

  /** Loaded with the first picture: many collections have none. */
  async #load(): Promise<Sharp | null> {
    try {
      const { default: sharp } = await import('sharp');
      sharp.concurrency(1);
      return sharp;
    } catch (error) {
      this.#log.warn({ reason: (error as Error).message }, 'Pictures are sent in the size they have');
      return null;
    }
  }
}
