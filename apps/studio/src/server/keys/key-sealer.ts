import { isNativeError } from 'node:util/types';
import { createCipheriv, createDecipheriv, createHash, hkdfSync, randomBytes } from 'node:crypto';
import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const FILE = 'secret.key';
const BYTES = 32;

/**
 * Seals what verifies the tokens of a key (AES-256-GCM, NIST SP 800-38D), under a secret that lies beside the database
 * and not in it: whoever has the database alone can neither use a key nor sign with it.
 */
export class KeySealer {
  readonly #secret: Buffer;

  constructor(secret: Buffer) {
    this.#secret = secret;
  }

  /** With the secret of a data folder, made on first use, or the one of the environment (32 bytes in base64). */
  static of(dataDir: string, fromEnv: string | undefined = process.env.YUCCA_SECRET): KeySealer {
    if (fromEnv) return new KeySealer(createHash('sha256').update(fromEnv).digest());
    const file = path.join(dataDir, FILE);
    if (!existsSync(file))
      writeFileSync(file, `${randomBytes(BYTES).toString('base64')}\n`, { mode: 0o600, flag: 'wx' });
    else chmodSync(file, 0o600);
    return new KeySealer(createHash('sha256').update(readFileSync(file, 'utf8').trim()).digest());
  }

  /** A secret of its own for another purpose (HKDF, RFC 5869): what is signed for one opens nothing else. */
  secretFor(purpose: string): Buffer {
    return Buffer.from(hkdfSync('sha256', this.#secret, Buffer.alloc(0), `yucca ${purpose}`, 32));
  }

  seal(plain: Buffer): string {
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', this.#secret, nonce);
    const sealed = Buffer.concat([cipher.update(plain), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64');
  }

  /** What was sealed; null when it was sealed under another secret, or changed since. */
  open(text: string): Buffer | null {
    const bytes = Buffer.from(text, 'base64');
    if (bytes.length < 28) return null;
    const decipher = createDecipheriv('aes-256-gcm', this.#secret, bytes.subarray(0, 12), { authTagLength: 16 });
    decipher.setAuthTag(bytes.subarray(12, 28));
    try {
      return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]);
    } catch (error) {
      if (isNativeError(error)) return null;
      throw error;
    }
  }
}
