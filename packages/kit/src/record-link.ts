import type { RecordJson } from '@yucca/contract';
import { leaves } from './card.ts';
import { isWebAddress } from './web-address.ts';

/**
 * Where a pattern leads for a record: `{id}` is its key, `{path}` a field of it, percent-encoded unless the pattern
 * begins with it. Undefined where it leads nowhere: a field is missing, or what comes out is no web address.
 */
export function recordLink(pattern: string, id: string, record: RecordJson): string | undefined {
  let isWhole = true;
  const link = pattern.replace(/\{([^{}]*)\}/g, (_, path: string, at: number) => {
    const value = path === 'id' ? id : leaves(record, path).values().next().value;
    if (value === undefined || value === '') isWhole = false;
    return at === 0 ? String(value) : encodeURIComponent(value ?? '');
  });
  return isWhole && isWebAddress(link) ? link : undefined;
}
