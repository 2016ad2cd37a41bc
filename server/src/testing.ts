/** For specs only: a whole server on a database in memory. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Readable } from 'node:stream';
import type { Express } from 'express';
import type { Response } from 'supertest';
import { createApp } from './app';
import type { ThumbnailKeeping } from './exports/exports.service';
import { openDatabase } from './data-source';
import { type Parts, assemble, close } from './parts';

export const fromRoot = (path: string): string => fileURLToPath(new URL(`../../${path}`, import.meta.url));

export interface TestApp extends Parts {
  thumbnails: ThumbnailKeeping;
  app: Express;
  /** Ends everything the server holds. */
  end(): Promise<void>;
}

export async function testApp(file = ':memory:'): Promise<TestApp> {
  const spool = mkdtempSync(join(tmpdir(), 'jentrix-spool-'));
  const folders = { database: file, faces: fromRoot('faces'), spool, backups: join(spool, 'backups') };
  const parts = assemble(await openDatabase(file), folders);
  const thumbnails = { folder: join(spool, 'thumbnails'), drawnBy: 'specs' };
  const app = createApp({ ...parts, thumbnails, webRoot: fromRoot('server/src/testing-page'), hosts: new Set(['127.0.0.1']) });
  const end = async (): Promise<void> => {
    await close(parts);
    rmSync(spool, { recursive: true, force: true });
  };
  return { ...parts, app, thumbnails, end };
}

/** Collects a binary answer: `request(app).get(…).buffer(true).parse(binary)`. */
export function binary(response: Response, done: (error: Error | null, body: Buffer) => void): void {
  const stream = response as unknown as Readable;
  const parts: Buffer[] = [];
  stream.on('data', (part: Buffer) => parts.push(part));
  stream.on('end', () => done(null, Buffer.concat(parts)));
}
