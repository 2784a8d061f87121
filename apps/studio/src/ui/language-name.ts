const names = new Intl.DisplayNames('en', { type: 'language' });

/** The English name of a language (BCP 47 tag); the tag where there is none, and where it is no tag. */
export function languageName(tag: string): string {
  if (tag === 'und') return 'no language';
  try {
    return names.of(tag) ?? tag;
  } catch (error) {
    if (error instanceof RangeError) return tag;
    throw error;
  }
}

/** Tags in the order of their names. */
export const byName = (tags: readonly string[]): string[] =>
  [...tags].sort((a, b) => languageName(a).localeCompare(languageName(b), 'en'));
