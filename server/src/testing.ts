/** For specs only: a whole server on a database in memory. */
import { fileURLToPath } from 'node:url';
import type { Express } from 'express';
import type { DataSource } from 'typeorm';
import { createApp } from './app';
import { openDatabase } from './database/data-source';
import { FaceLibrary } from './faces/face-library';

export const fromRoot = (path: string): string => fileURLToPath(new URL(`../../${path}`, import.meta.url));

export async function testApp(): Promise<{ app: Express; dataSource: DataSource }> {
  const dataSource = await openDatabase(':memory:');
  const app = createApp({
    dataSource,
    library: new FaceLibrary(fromRoot('faces')),
    webRoot: fromRoot('server/src/testing-page'),
    hosts: new Set(['127.0.0.1']),
  });
  return { app, dataSource };
}
