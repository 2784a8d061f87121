import { isNativeError } from 'node:util/types';
/** Whether it was what should be unpacked that was wrong: the codes of zlib (`Z_DATA_ERROR`, `Z_BUF_ERROR`, …). */
export function isUnpackError(error: unknown): boolean {
  const code: unknown = isNativeError(error) && 'code' in error ? error.code : null;
  return typeof code === 'string' && /^Z_/.test(code);
}
