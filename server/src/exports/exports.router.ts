import { zipQuerySchema } from '@jentrix/core/api';
import { JOB_FILE_EXTENSION, JOB_FILE_TYPE, SHEET_FORMATS, type SheetFormat, endingOf } from '@jentrix/core/formats';
import { fileQuerySchema } from '@jentrix/core/pulls';
import { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { parseQuery } from '../http/parse';
import { ProblemError } from '../http/problem';
import type { JobsService } from '../jobs/jobs.service';
import type { PullsService } from '../pulls/pulls.service';
import type { ExportsService } from './exports.service';
import { handFile, sendThumbnail } from './send-file';

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

/** Mounted beside the jobs' own routes: files made from a job. */
export function exportsRouter(jobs: JobsService, exports: ExportsService, pulls: Pick<PullsService, 'archive'>): Router {
  const router = Router()
    .use(
      ['/:id/thumbnail.png', '/:id/sheets', '/:id/sheets.zip', '/:id/proofs.zip', '/:id/pulls/:pull/thumbnail.png', '/:id/pulls/:pull/measure', '/:id/measure'],
      renderLimit,
    )
    .get('/:id/file', async (request, response) => {
      const { id } = request.params;
      const stored = await jobs.stored(id);
      const { pulls: asked } = parseQuery(fileQuerySchema, request);
      const file = await exports.jobFile(stored, asked === 'true' ? await pulls.archive(id) : undefined);
      response.attachment(file.name + JOB_FILE_EXTENSION);
      await handFile(response, file, JOB_FILE_TYPE);
    })
    .get('/:id/thumbnail.png', async (request, response) => {
      const stored = await jobs.peek(request.params.id);
      await sendThumbnail(request, response, await exports.thumbnail(stored));
    })
    .get('/:id/sheets.zip', async (request, response) => {
      const format = formatCalled(parseQuery(zipQuerySchema, request).format);
      const options = parseQuery(format.options, request);
      const stored = await jobs.stored(request.params.id);
      const zip = await exports.zip(stored, { format, options }, () => !response.destroyed);
      response.attachment(`${zip.name}.zip`);
      await handFile(response, zip, 'application/zip');
    });
  for (const format of SHEET_FORMATS) {
    router.get(`/:id/sheets/:sheet/${format.id}`, async (request, response) => {
      const options = parseQuery(format.options, request);
      const { id, sheet } = request.params;
      const file = await exports.sheet(await jobs.stored(id), sheet, { format, options });
      response.attachment(file.name + endingOf(format, options));
      await handFile(response, file, format.mediaType);
    });
  }
  return router;
}

/** @throws ProblemError 422 */
function formatCalled(id: string): SheetFormat {
  const format = SHEET_FORMATS.find((one) => one.id === id);
  if (format) return format;
  throw new ProblemError(422, 'invalid', 'The query is not valid', `format: there are ${SHEET_FORMATS.map((one) => one.id).join(', ')}.`);
}
