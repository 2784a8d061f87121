/**
 * What visitors of the nursery asked for before they opened something, and how many of them: completions for the next.
 */
export const VISITS: Readonly<Record<string, readonly (readonly [query: string, visits: number])[]>> = {
  plants: [
    ['agave blue-green', 4], ['aloe vera', 9], ['apple tree', 5], ['bees', 8], ['boston fern', 6], ['climbers', 9],
    ['dahlia red', 4], ['daffodil yellow', 5], ['dry shade', 6], ['english lavender', 11], ['evergreen', 4], ['fern shade', 7],
    ['foxglove white', 3], ['fragrant', 6], ['ground cover', 5], ['hanging', 4], ['hydrangea blue', 7],
    ['indoor fern', 5], ['japanese maple', 10], ['lavender purple', 3], ['lavender white', 4], ['lemon tree', 6],
    ['maidenhair fern', 4], ['moth orchid white', 5], ['olive tree', 7], ['peace lily', 6], ['pink peony', 4], ['red rose', 8],
    ['rosemary', 6], ['shade loving', 3], ['snake plant', 9], ['spider plant', 5], ['strawberry', 4], ['gravel garden', 3],
    ['tomato', 7], ['tulip red', 5], ['white rose', 7], ['wisteria', 6],
  ],
  guides: [
    ['pruning roses', 6], ['repotting', 5], ['slugs', 4], ['watering in summer', 4], ['winter care', 5], ['yellow leaves', 6],
  ],
}; // prettier-ignore
