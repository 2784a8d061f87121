import type { InterfaceDocument, PageParts } from '@yucca/contract';
import type { DraftStart } from '@/features/draft/draft-server';

/** What a page can be made of, and what its screen needs besides. */
export interface PageFacts {
  parts: PageParts;
  collection: string;
  generation: number;
  collections: { name: string; title: string }[];
  /** All pages of this collection. */
  pages: { slug: string; title: string }[];
}

export type DesignStart = DraftStart<InterfaceDocument>;
