/**
 * A name for a task that a request is about to begin: a UUID of version 4 (RFC 9562, section 5.4). Browsers have
 * `crypto.randomUUID` over TLS alone, and Yucca is used over plain HTTP at home.
 */
export function newTaskId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20)}`;
}
