import { closeSync, existsSync, openSync, readSync, statSync } from 'node:fs';
import { PACKAGE_EXTENSION, isZip } from '@jentrix/core/package';

/** Whether a file is a package: by what is in it, or where it isn't there by its name. */
export function isPackage(path: string): boolean {
  if (path.toLowerCase().endsWith(PACKAGE_EXTENSION)) return true;
  if (!existsSync(path) || !statSync(path).isFile()) return false;
  const [file, start] = [openSync(path, 'r'), new Uint8Array(4)];
  try {
    return readSync(file, start) === start.length && isZip(start);
  } finally {
    closeSync(file);
  }
}
