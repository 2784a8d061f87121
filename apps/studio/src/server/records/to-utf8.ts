import iconv from 'iconv-lite';
import { Transform, type TransformCallback } from 'node:stream';
import { charsetOf, UTF_8 } from '@/text/charset';

/** So much of an input is looked at to tell what it is written in. */
const LOOKED_AT = 64 * 1024;

/**
 * Bytes of a text, in whatever it is written in, as UTF-8. What is UTF-8 already goes through as it is. Not by Node's
 * own `TextDecoder`, whose windows-1252 lacks what stands between 0x80 and 0x9f.
 */
export class ToUtf8 extends Transform {
  readonly #said: string | null;
  /** Not told yet. */
  #waiting: Buffer[] = [];
  #bytes = 0;
  #decoder: iconv.DecoderStream | null | undefined = undefined;

  /** `said`: the charset that the sender names. */
  constructor(said: string | null) {
    super();
    this.#said = said;
  }

  override _transform(chunk: Buffer, _: BufferEncoding, done: TransformCallback): void {
    if (this.#decoder !== undefined) return done(null, this.#decode(chunk));
    this.#waiting.push(chunk);
    this.#bytes += chunk.length;
    if (this.#bytes < LOOKED_AT) return done();
    done(null, this.#begin());
  }

  override _flush(done: TransformCallback): void {
    const last = this.#decoder === undefined && this.#bytes > 0 ? [this.#begin()] : [];
    const rest = this.#decoder ? [Buffer.from(this.#decoder.end() ?? '')] : [];
    const all = Buffer.concat([...last, ...rest]);
    done(null, all.length > 0 ? all : undefined);
  }

  #begin(): Buffer {
    const head = Buffer.concat(this.#waiting);
    this.#waiting = [];
    const charset = charsetOf(head, this.#said);
    this.#decoder = charset === UTF_8 ? null : iconv.getDecoder(charset);
    return this.#decode(head);
  }

  #decode(chunk: Buffer): Buffer {
    return this.#decoder ? Buffer.from(this.#decoder.write(chunk)) : chunk;
  }
}
