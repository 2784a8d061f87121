/**
 * A path of this server to go on to; anything else becomes the overview, so that no link leads a signed-in person away.
 */
export function safePath(path: string): string {
  return /^\/(?![/\\])[^\\\s]*$/.test(path) ? path : '/';
}
