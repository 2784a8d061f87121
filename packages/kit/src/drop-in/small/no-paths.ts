/** Stands in the drop-in for choices in the path of an address: it has none of its own, so all stands in the query. */
export const readPath = (): null => null;
export const printPath = (): null => null;
