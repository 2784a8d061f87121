const MOST_S = 24 * 3_600;

/** Seconds that `Retry-After` asks for (RFC 9110, 10.2.3): a number, or a date; at most a day. Null for nothing. */
export function retryAfterS(header: string | null, now = Date.now()): number | null {
  if (header === null) return null;
  const s = /^\d+$/.test(header.trim()) ? Number(header) : Math.ceil((Date.parse(header) - now) / 1_000);
  return Number.isFinite(s) && s > 0 ? Math.min(s, MOST_S) : null;
}
