/** Files in and out of the page. */

/** The file that was picked in a field, which is emptied so that the same file can be picked again. */
export function takeFile(field: HTMLInputElement): File | undefined {
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
