/**
 * The days of a season (each as month and day), ISO 8601: of the one that is on, or else of the next. With years of
 * their own, all placements of the demo would have ended some day.
 */
export function season(
  from: string,
  to: string,
  today = new Date().toISOString().slice(0, 10),
): { from: string; to: string } {
  // One over the turn of the year may have begun in the year before.
  for (let year = Number(today.slice(0, 4)) - 1; ; year++) {
    const end = `${to < from ? year + 1 : year}-${to}`;
    if (end >= today) return { from: `${year}-${from}`, to: end };
  }
}
