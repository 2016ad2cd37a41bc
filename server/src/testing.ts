/** For specs only: a whole server on a database in memory. */
import { fileURLToPath } from 'node:url';
import type { Readable } from 'node:stream';
import type { Express } from 'express';
import type { Response } from 'supertest';
import type { DataSource } from 'typeorm';
import { createApp } from './app';
import { CatalogueService } from './catalogue/catalogue.service';
import { openDatabase } from './database/data-source';
import { FaceLibrary } from './faces/face-library';

export const fromRoot = (path: string): string => fileURLToPath(new URL(`../../${path}`, import.meta.url));

export async function testApp(): Promise<{ app: Express; dataSource: DataSource }> {
  const dataSource = await openDatabase(':memory:');
  const app = createApp({
    dataSource,
    library: new FaceLibrary(fromRoot('faces'), new CatalogueService(fromRoot('faces/catalogue')), dataSource),
    webRoot: fromRoot('server/src/testing-page'),
    hosts: new Set(['127.0.0.1']),
  });
  return { app, dataSource };
}

/** Collects a binary answer: `request(app).get(…).buffer(true).parse(binary)`. */
export function binary(response: Response, done: (error: Error | null, body: Buffer) => void): void {
  const stream = response as unknown as Readable;
  const parts: Buffer[] = [];
  stream.on('data', (part: Buffer) => parts.push(part));
  stream.on('end', () => done(null, Buffer.concat(parts)));
}
