/** Files in and out of the page. */

/** The file that was picked in a field, which is emptied so that the same file can be picked again. */
export function pickedFile(field: HTMLInputElement): File | undefined {
  const file = field.files?.[0];
  field.value = '';
  return file;
}

/** Gives what is at an address as a file. @param name of the file; empty for the one the server gives it. */
export function download(href: string, name = ''): void {
  const link = document.createElement('a');
  link.href = href;
  link.download = name;
  link.click();
}

/** Gives a file that the page holds. @param name of the file. */
export function save(file: Blob, name: string): void {
  const url = URL.createObjectURL(file);
  download(url, name);
  // The browser takes it over in its own time.
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** A size in bytes, as people read it: `812 KB`, `1.4 MB`. */
export function fileSize(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  const [value, unit] = bytes < 1e6 ? [bytes / 1e3, 'KB'] : [bytes / 1e6, 'MB'];
  return `${value < 10 ? value.toFixed(1) : Math.round(value)} ${unit}`;
}
