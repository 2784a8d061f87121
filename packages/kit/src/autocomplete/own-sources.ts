import type { PageSection } from '@yucca/contract';
import { isWebAddress } from '../web-address.ts';
import { staticSource, type Offer, type Source } from './source.ts';

type OwnSection = Pick<PageSection, 'label' | 'size' | 'letters' | 'rows' | 'address'>;

/** Rows of one's own that begin with what is typed. Kinds: `link` for those that lead somewhere, else `query`. */
export const listSource = ({ label, size, letters = 0, rows = [] }: OwnSection, name: string): Source =>
  staticSource(name, label, offersOf(rows, name), letters, size);

/**
 * Rows that an address of one's own answers: a JSON list of `{text, detail?, picture?, href?}`, asked by the visitor's
 * browser without cookies. Rows that are none are left out.
 */
export function addressSource({ label, size, letters = 1, address = '' }: OwnSection, name: string): Source {
  return {
    name,
    remote: true,
    from: letters,
    async load(text, signal) {
      const response = await fetch(address.replaceAll('{q}', encodeURIComponent(text)), {
        signal,
        credentials: 'omit',
      });
      if (!response.ok) return [];
      return [{ name, label, offers: offersOf(await response.json(), name).slice(0, size) }];
    },
  };
}

/** The rows in what an address answered, or a design says. */
export function offersOf(found: unknown, name: string): Offer[] {
  if (!Array.isArray(found)) return [];
  return found.flatMap((row: Record<string, unknown> | null, i): Offer[] => {
    const { text, detail, picture, href } = row ?? {};
    if (typeof text !== 'string' || text === '') return [];
    return [
      {
        id: `${name}/${i}/${text}`,
        kind: isWebAddress(href) ? 'link' : 'query',
        text,
        ...(typeof detail === 'string' && { detail }),
        ...(isWebAddress(picture) && { picture }),
        ...(isWebAddress(href) && { href }),
      },
    ];
  });
}
