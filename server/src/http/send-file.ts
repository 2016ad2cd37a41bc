import { createReadStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { Request, Response } from 'express';

/** A small picture: what tells it from another, and its file, which stays whose it is. */
export interface Thumbnail {
  tag: string;
  file: () => Promise<string>;
}

export async function sendFile(response: Response, path: string, type: string): Promise<void> {
  try {
    response.type(type).set('content-length', String((await stat(path)).size));
    await pipeline(createReadStream(path), response);
  } catch (error) {
    // Whoever asked has left: nobody is there to be told.
    if (!response.destroyed) throw error;
  }
}

/** Passes a file on, which is gone afterwards. */
export async function handFile(response: Response, { path }: { readonly path: string }, type: string): Promise<void> {
  try {
    await sendFile(response, path, type);
  } finally {
    await rm(path, { force: true });
  }
}

/** Sends a thumbnail, unless whoever asks has it already; it is made only then. */
export async function sendThumbnail(request: Request, response: Response, { tag, file }: Thumbnail): Promise<void> {
  response.set({ etag: `"${tag}"`, 'cache-control': 'private, no-cache' });
  if (request.fresh) response.status(304).end();
  else await sendFile(response, await file(), 'image/png');
}
