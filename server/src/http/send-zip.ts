/** Files in one ZIP, sent while they are made: no more than two of them are there at a time. */
import { once } from 'node:events';
import { createReadStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import type { Response } from 'express';
import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';

/** A file on its way into the ZIP: its name there, and whether it is packed already. */
export interface ZipEntry {
  name: string;
  path: string;
  packed: boolean;
}

/** The same files give the same ZIP: when it was made is not said (the earliest time a ZIP can state). */
const NO_DATE = new Date(1980, 0, 1);

/**
 * Sends files as a ZIP, which is then called `name`; they are gone afterwards.
 * @param makers one a file, in their order; the next is made while one is sent.
 * @throws what the first file fails with. When a later one fails, the answer breaks off.
 */
export async function sendZip(response: Response, name: string, makers: readonly (() => Promise<ZipEntry>)[]): Promise<void> {
  const [first, ...more] = makers;
  let next = first?.();
  // Who asked is told of what is wrong with the first, while that can still be said.
  await next;
  response.attachment(`${name}.zip`).type('application/zip');
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    response.write(chunk);
  });
  try {
    while (next && !response.destroyed) {
      const entry: ZipEntry = await next;
      next = more.shift()?.();
      // It is awaited in its turn.
      next?.catch(() => undefined);
      await put(entry, zip, response);
    }
    zip.end();
    response.end();
  } finally {
    const left = await next?.catch(() => undefined);
    if (left) await rm(left.path, { force: true });
  }
}

async function put({ name, path, packed }: ZipEntry, zip: Zip, response: Response): Promise<void> {
  try {
    const file = packed ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
    file.mtime = NO_DATE;
    zip.add(file);
    for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) {
      if (response.destroyed) return;
      file.push(chunk);
      // A reader that is slow holds up what is read, so that nothing piles up here.
      if (response.writableNeedDrain) await Promise.race([once(response, 'drain'), once(response, 'close')]);
    }
    file.push(new Uint8Array(0), true);
  } finally {
    await rm(path, { force: true });
  }
}
