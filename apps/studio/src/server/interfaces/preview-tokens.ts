import jwt from 'jsonwebtoken';
import { unless } from '@yucca/contract';
import type { Clock } from '../clock';

/**
 * Tokens that open the draft of one page for a time (JWT, RFC 7519): whoever has the address sees it, nobody can make
 * one. They are signed under a secret of the data folder, for previews alone.
 */
export class PreviewTokens {
  readonly #secret: Buffer;
  readonly #clock: Clock;

  constructor(secret: Buffer, clock: Clock) {
    this.#secret = secret;
    this.#clock = clock;
  }

  make(slug: string, seconds: number): { token: string; expiresAt: string } {
    const exp = Math.floor(this.#clock.now() / 1000) + seconds;
    const token = jwt.sign({ sub: slug, aud: 'preview', exp }, this.#secret, { algorithm: 'HS256', noTimestamp: true });
    return { token, expiresAt: new Date(exp * 1000).toISOString() };
  }

  opens(slug: string, token: string): boolean {
    return unless(
      jwt.JsonWebTokenError,
      () => {
        jwt.verify(token, this.#secret, {
          algorithms: ['HS256'],
          audience: 'preview',
          subject: slug,
          clockTimestamp: Math.floor(this.#clock.now() / 1000),
        });
        return true;
      },
      false,
    );
  }
}
