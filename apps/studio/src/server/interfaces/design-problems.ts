import {
  asPageFacet,
  FACET_CONTROLS,
  fitsControl,
  pointerToken,
  type InterfaceDocument,
  type Tuning,
} from '@yucca/contract';
import { parseFilter } from '@yucca/engine';

export interface Problem {
  /** JSON Pointer into the design. */
  pointer: string;
  detail: string;
}

/** What a design may name. */
interface Known {
  has: (collection: string) => boolean;
  /** The live tuning of a collection. */
  tuningOf: (collection: string) => Pick<Tuning, 'facets' | 'sorts'>;
}

export const unknownCollection = (pointer: string, name: string): Problem => ({
  pointer,
  detail: `there is no collection called “${name}”`,
});

/**
 * What a page could not be made of, by its place. `before`: the design there was; what that named already may have gone
 * since, and is no problem of whoever changes something else.
 */
export function designProblems(document: InterfaceDocument, before: InterfaceDocument | null, known: Known): Problem[] {
  const tuning = known.tuningOf(document.collection);
  return [
    ...facetProblems(document, before, tuning),
    ...sortProblems(document, before, tuning),
    ...sectionProblems(document, before, known),
    ...shelfProblems(document, before, known),
    ...badgeProblems(document),
    ...linkProblems(document),
    ...formatProblems(document),
  ];
}

function facetProblems(
  { collection, facets = [] }: InterfaceDocument,
  before: InterfaceDocument | null,
  tuning: ReturnType<Known['tuningOf']>,
): Problem[] {
  const named = facets.map(asPageFacet);
  const old = new Set((before?.facets ?? []).map((facet) => asPageFacet(facet).name));
  return named.flatMap((facet, i): Problem[] => {
    if (named.findIndex(({ name }) => name === facet.name) < i)
      return [{ pointer: `/facets/${i}`, detail: `“${facet.name}” is in the list twice` }];
    const there = tuning.facets.find(({ name }) => name === facet.name);
    if (!there && old.has(facet.name)) return [];
    if (!there) return [{ pointer: `/facets/${i}`, detail: `“${collection}” has no facet called “${facet.name}”` }];
    if (facet.control === undefined || fitsControl(there.kind, facet.control)) return [];
    const detail = `“${facet.control}” is no control for ${there.kind}; try ${FACET_CONTROLS[there.kind].join(', ')}`;
    return [{ pointer: `/facets/${i}/control`, detail }];
  });
}

function sortProblems(
  { collection, sorts = [] }: InterfaceDocument,
  before: InterfaceDocument | null,
  tuning: ReturnType<Known['tuningOf']>,
): Problem[] {
  const there = new Set([...(before?.sorts ?? []), ...tuning.sorts.map(({ name }) => name)]);
  return sorts.flatMap((name, i) =>
    there.has(name) ? [] : [{ pointer: `/sorts/${i}`, detail: `“${collection}” has no sort called “${name}”` }],
  );
}

/** Problems of parts that may show another collection than the page’s own. */
function collectionProblems(
  part: string,
  items: readonly { collection?: string }[],
  before: readonly { collection?: string }[],
  { has }: Known,
): Problem[] {
  const old = new Set(before.map(({ collection }) => collection));
  return items.flatMap(({ collection }, i) =>
    collection === undefined || old.has(collection) || has(collection)
      ? []
      : [unknownCollection(`/${part}/${i}/collection`, collection)],
  );
}

function sectionProblems(
  { autocomplete = [] }: InterfaceDocument,
  before: InterfaceDocument | null,
  known: Known,
): Problem[] {
  return [
    ...collectionProblems('autocomplete', autocomplete, before?.autocomplete ?? [], known),
    ...autocomplete.flatMap(({ from, address }, i): Problem[] => {
      if (from !== 'address') return [];
      if (address === undefined)
        return [{ pointer: `/autocomplete/${i}/address`, detail: 'is missing: who is asked?' }];
      return URL.canParse(address.replaceAll('{q}', 'x'))
        ? []
        : [{ pointer: `/autocomplete/${i}/address`, detail: 'is no web address' }];
    }),
  ];
}

function shelfProblems(document: InterfaceDocument, before: InterfaceDocument | null, known: Known): Problem[] {
  const { shelves = [] } = document;
  const old = new Set(before?.shelves?.map(({ sort }) => sort));
  return [
    ...collectionProblems('shelves', shelves, before?.shelves ?? [], known),
    ...shelves.flatMap(({ from, collection = document.collection, sort }, i): Problem[] => {
      if (from !== 'sorted') return [];
      if (sort === undefined) return [{ pointer: `/shelves/${i}/sort`, detail: 'is missing: by which sort?' }];
      if (!known.has(collection) || old.has(sort)) return [];
      return known.tuningOf(collection).sorts.some(({ name }) => name === sort)
        ? []
        : [{ pointer: `/shelves/${i}/sort`, detail: `“${collection}” has no sort called “${sort}”` }];
    }),
  ];
}

/** Conditions are read; a field that is in no record is no problem, because it may come, or have gone. */
function badgeProblems({ badges = [] }: InterfaceDocument): Problem[] {
  return badges.flatMap(({ where }, i): Problem[] => {
    try {
      parseFilter(where);
      return [];
    } catch (error) {
      return [{ pointer: `/badges/${i}/where`, detail: (error as Error).message }];
    }
  });
}

function linkProblems({ link }: InterfaceDocument): Problem[] {
  if (link === undefined) return [];
  const rest = link.replace(/\{[^{}]+\}/g, '');
  if (/[{}]/.test(rest)) return [{ pointer: '/link', detail: 'has a brace without its other half' }];
  return rest === link
    ? [
        {
          pointer: '/link',
          detail: 'names no field: all results would lead to one place. Put {id} where the key goes.',
        },
      ]
    : [];
}

function formatProblems({ formats = {} }: InterfaceDocument): Problem[] {
  return Object.entries(formats).flatMap(([field, { currency, unit }]) =>
    currency !== undefined && unit !== undefined
      ? [
          {
            pointer: `/formats/${pointerToken(field)}`,
            detail: 'has a currency and a unit; a number is counted in one of them',
          },
        ]
      : [],
  );
}
