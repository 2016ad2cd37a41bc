import { createReadStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { pngQuerySchema, svgQuerySchema, zipQuerySchema } from '@jentrix/core/api';
import { JOB_FILE_EXTENSION, JOB_FILE_TYPE } from '@jentrix/core/formats';
import { type Response, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { parseQuery } from '../http/parse';
import { ProblemError } from '../http/problem';
import type { JobsService } from '../jobs/jobs.service';
import type { ExportedFile, ExportsService } from './exports.service';

const THUMBNAIL_SIDE = 480;

/** Rendering takes real work: more than this many pictures a minute (JENTRIX_RENDERS_A_MINUTE, 600) are refused. */
const renderLimit = rateLimit({
  windowMs: 60_000,
  limit: Number(process.env['JENTRIX_RENDERS_A_MINUTE'] ?? 600),
  standardHeaders: 'draft-8',
  legacyHeaders: false,
  handler: () => {
    throw new ProblemError(429, 'too-many', 'Too many pictures at once', 'Wait a minute, then try again.');
  },
});

/** Passes a file on, which is gone afterwards. */
async function hand(response: Response, { path }: ExportedFile, type: string): Promise<void> {
  try {
    response.type(type).set('content-length', String((await stat(path)).size));
    await pipeline(createReadStream(path), response);
  } catch (error) {
    // Whoever asked has left: nobody is there to be told.
    if (!response.destroyed) throw error;
  } finally {
    await rm(path, { force: true });
  }
}

/** Mounted beside the jobs' own routes: files made from a job. */
export function exportsRouter(jobs: JobsService, exports: ExportsService): Router {
  return Router()
    .use(['/:id/thumbnail.png', '/:id/sheets', '/:id/sheets.zip'], renderLimit)
    .get('/:id/file', async (request, response) => {
      const file = await exports.jobFile(await jobs.stored(request.params.id));
      response.attachment(file.name + JOB_FILE_EXTENSION);
      await hand(response, file, JOB_FILE_TYPE);
    })
    .get('/:id/thumbnail.png', async (request, response) => {
      const stored = await jobs.peek(request.params.id);
      response.set({ etag: `"${stored.revision}"`, 'cache-control': 'private, no-cache' });
      if (request.fresh) {
        response.status(304).end();
        return;
      }
      await hand(response, await exports.thumbnail(stored, THUMBNAIL_SIDE), 'image/png');
    })
    .get('/:id/sheets.zip', async (request, response) => {
      const { format, scale } = parseQuery(zipQuerySchema, request);
      const stored = await jobs.stored(request.params.id);
      const zip = await exports.zip(stored, format, scale, () => !response.destroyed);
      response.attachment(`${zip.name}.zip`);
      await hand(response, zip, 'application/zip');
    })
    .get('/:id/sheets/:sheet/svg', async (request, response) => {
      const { letters } = parseQuery(svgQuerySchema, request);
      const svg = await exports.svg(await jobs.stored(request.params.id), request.params.sheet, letters);
      response.attachment(`${svg.name}.svg`);
      await hand(response, svg, 'image/svg+xml');
    })
    .get('/:id/sheets/:sheet/png', async (request, response) => {
      const { scale } = parseQuery(pngQuerySchema, request);
      const png = await exports.png(await jobs.stored(request.params.id), request.params.sheet, scale);
      response.attachment(`${png.name}@${scale}x.png`);
      await hand(response, png, 'image/png');
    });
}
