import { pngQuerySchema, svgQuerySchema, zipQuerySchema } from '@jentrix/core/api';
import { JOB_FILE_EXTENSION, JOB_FILE_TYPE, writeJobFile } from '@jentrix/core/formats';
import type { Job } from '@jentrix/core/job';
import { type Response, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { parseQuery } from '../http/parse';
import { ProblemError } from '../http/problem';
import type { JobsService } from '../jobs/jobs.service';
import type { ExportsService } from './exports.service';

const THUMBNAIL_WIDTH = 480;

const slug = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/\p{M}/gu, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '');

/** A file name from a title: letters and figures of any script, the rest as hyphens. */
export function fileName(job: Job, sheetId?: string): string {
  const sheet = job.sheets.length > 1 ? job.sheets.find(({ id }) => id === sheetId) : undefined;
  return [slug(job.title) || 'job', sheet && (slug(sheet.name) || 'sheet')].filter(Boolean).join('-');
}

const attach = (response: Response, name: string): Response => response.attachment(name);

/** Rendering takes real work: more than this many pictures a minute are refused. */
const renderLimit = rateLimit({
  windowMs: 60_000,
  limit: 600,
  standardHeaders: 'draft-8',
  legacyHeaders: false,
  handler: () => {
    throw new ProblemError(429, 'too-many', 'Too many pictures at once', 'Wait a minute, then try again.');
  },
});

/** Mounted beside the jobs' own routes: files made from a job. */
export function exportsRouter(jobs: JobsService, exports: ExportsService): Router {
  return Router()
    .use(['/:id/thumbnail.png', '/:id/sheets', '/:id/sheets.zip'], renderLimit)
    .get('/:id/file', async (request, response) => {
      const { job } = await jobs.read(request.params.id);
      attach(response, fileName(job) + JOB_FILE_EXTENSION)
        .type(JOB_FILE_TYPE)
        .send(writeJobFile(job));
    })
    .get('/:id/thumbnail.png', async (request, response) => {
      const { revision, job } = await jobs.peek(request.params.id);
      response.set({ etag: `"${revision}"`, 'cache-control': 'private, no-cache' });
      if (request.fresh) {
        response.status(304).end();
        return;
      }
      response.type('image/png').send(await exports.thumbnail(job, THUMBNAIL_WIDTH));
    })
    .get('/:id/sheets.zip', async (request, response) => {
      const { format, scale } = parseQuery(zipQuerySchema, request);
      const { job } = await jobs.read(request.params.id);
      const zip = await exports.zip(job, format, scale, (sheet, i) => `${String(i + 1).padStart(2, '0')}-${slug(sheet.name) || 'sheet'}`);
      attach(response, `${fileName(job)}.zip`)
        .type('application/zip')
        .send(Buffer.from(zip));
    })
    .get('/:id/sheets/:sheet/svg', async (request, response) => {
      const { letters } = parseQuery(svgQuerySchema, request);
      const { job } = await jobs.read(request.params.id);
      const svg = await exports.svg(job, request.params.sheet, letters);
      attach(response, `${fileName(job, request.params.sheet)}.svg`)
        .type('image/svg+xml')
        .send(svg);
    })
    .get('/:id/sheets/:sheet/png', async (request, response) => {
      const { scale } = parseQuery(pngQuerySchema, request);
      const { job } = await jobs.read(request.params.id);
      const png = await exports.png(job, request.params.sheet, scale);
      attach(response, `${fileName(job, request.params.sheet)}@${scale}x.png`)
        .type('image/png')
        .send(png);
    });
}
