/** The name of a collection as a folder of routes: what has a meaning for routers (brackets, dots) is left out. */
export const pathSegment = (name: string): string =>
  name.replace(/[^A-Za-z0-9-]+/g, '-').replace(/^-+|-+$/g, '') || 'records';
