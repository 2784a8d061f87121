/**
 * Puts a text on the clipboard. Rejects with a sentence when the browser does not allow it. Over plain HTTP browsers
 * have no clipboard for scripts; there the text is selected and copied as a person would.
 */
export async function copyText(text: string): Promise<void> {
  const refused = new Error('Mark it and copy it by hand: the browser does not allow it.');
  // Absent in what is no secure context, whatever its type says.
  // eslint-disable-next-line no-restricted-properties -- this is where it is asked for
  const clipboard = navigator.clipboard as Clipboard | undefined;
  if (clipboard) return clipboard.writeText(text).catch(() => Promise.reject(refused));
  const before = document.activeElement as HTMLElement | null;
  const area = document.createElement('textarea');
  area.value = text;
  area.readOnly = true;
  area.style.cssText = 'position: fixed; inset: 0 auto auto 0; opacity: 0';
  // Beside what has the focus: a dialog takes it back from whatever stands outside of it.
  (before?.parentElement ?? document.body).append(area);
  area.select();
  const isCopied = document.execCommand('copy');
  area.remove();
  before?.focus();
  if (!isCopied) throw refused;
}
