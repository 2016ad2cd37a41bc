import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { sendFile } from '../http/send-file';
import { ProblemError } from '../http/problem';
import type { Spool } from '../pool/spool';
import type { BackupsService } from './backups.service';

/** Largest backup that is imported, in bytes. */
const MAX_BYTES = 8 * 1024 ** 3;

export function backupsRouter(backups: BackupsService, spool: Spool): Router {
  return Router()
    .get('/', (_request, response) => {
      response.json({ items: backups.list() });
    })
    .post('/', async (_request, response) => {
      response.status(201).json(await backups.make('by-hand'));
    })
    .get('/:name/file', async (request, response) => {
      const { name } = request.params;
      response.attachment(name);
      await sendFile(response, backups.pathOf(name), 'application/vnd.sqlite3');
    })
    .post('/:name/restore', async (request, response) => {
      await backups.restore(request.params.name);
      response.status(204).end();
    })
    .post('/restore', async (request, response) => {
      if (Number(request.get('content-length') ?? 0) > MAX_BYTES) throw new ProblemError(413, 'too-large', 'Too large', 'The backup is larger than 8 GB.');
      const path = spool.fresh();
      try {
        // As large as all the data: it goes to the disk as it comes.
        let bytes = 0;
        request.on('data', (chunk: Buffer) => {
          bytes += chunk.length;
          if (bytes > MAX_BYTES) request.destroy();
        });
        await pipeline(request, createWriteStream(path));
        await backups.restoreFile(path);
        response.status(204).end();
      } finally {
        await rm(path, { force: true });
      }
    })
    .post('/write-again', async (_request, response) => {
      await backups.writeAgain();
      response.status(204).end();
    });
}
