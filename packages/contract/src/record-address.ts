/**
 * Where a record is, below `/api/v1`. `.` and `..` are resolved away in a path even when they are percent-encoded (URL
 * Standard, "double-dot path segment"): a request to `…/records/..` would be one to the collection. They go in the
 * query.
 */
export function recordAddress(collection: string, key: string): string {
  const below = `/collections/${encodeURIComponent(collection)}`;
  return key === '.' || key === '..'
    ? `${below}/record?key=${encodeURIComponent(key)}`
    : `${below}/records/${encodeURIComponent(key)}`;
}
