/** The words of a field's path, in small letters: `LongName`, `long_name` and `Long name` are `long`, `name`. */
export function fieldWords(path: string): string[] {
  return path
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '');
}
