/** Gives a file to the browser, which keeps it where it keeps what is downloaded. */
export function download(file: Blob, name: string): void {
  const url = URL.createObjectURL(file);
  const link = document.createElement('a');
  Object.assign(link, { href: url, download: name });
  link.click();
  URL.revokeObjectURL(url);
}
