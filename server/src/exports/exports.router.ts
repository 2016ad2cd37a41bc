import {
  JOB_FILE_EXTENSION,
  JOB_FILE_TYPE,
  SHEET_FORMATS,
  type SheetFormat,
  endingOf,
  fileFormat,
  pairsFormat,
  sheetsQuerySchema,
} from '@jentrix/core/formats';
import { proofQuerySchema } from '@jentrix/core/api';
import { type Request, Router } from 'express';
import { parseQuery } from '../http/parse';
import { ProblemError } from '../http/problem';
import type { JobsService } from '../jobs/jobs.service';
import type { PullsService } from '../pulls/pulls.service';
import type { EarlierState, ExportsService, WrittenAs } from './exports.service';
import { handFile, sendThumbnail } from '../http/send-file';
import { sendZip } from '../http/send-zip';

/** Mounted beside the jobs' own routes: files made from a job and its pulls. */
export function exportsRouter(jobs: JobsService, exports: ExportsService, pulls: Pick<PullsService, 'archive' | 'kept'>): Router {
  /** The pull that a proof is asked to show beside the job. */
  const beforeOf = async (jobId: string, request: Request): Promise<EarlierState | undefined> => {
    const { pull } = parseQuery(proofQuerySchema, request);
    if (pull === undefined) return undefined;
    const { stored, uses } = await pulls.kept(jobId, pull);
    return { document: stored.document, uses };
  };
  const router = Router()
    .get('/:id/file', async (request, response) => {
      const { id } = request.params;
      const stored = await jobs.stored(id);
      const { pulls: withPulls } = parseQuery(fileFormat.options, request);
      const file = await exports.jobFile(stored, withPulls ? await pulls.archive(id) : undefined);
      response.attachment(file.name + JOB_FILE_EXTENSION);
      await handFile(response, file, JOB_FILE_TYPE);
    })
    .get(`/:id/${pairsFormat.id}`, async (request, response) => {
      const { fonts } = parseQuery(pairsFormat.options, request);
      const file = await exports.pairs(await jobs.stored(request.params.id), fonts);
      response.attachment(file.name + pairsFormat.extension);
      await handFile(response, file, pairsFormat.mediaType);
    })
    .get('/:id/thumbnail.png', async (request, response) => {
      const stored = await jobs.peek(request.params.id);
      await sendThumbnail(request, response, await exports.thumbnail(stored));
    })
    .get('/:id/pulls/:pull/thumbnail.png', async (request, response) => {
      const { stored, uses } = await pulls.kept(request.params.id, request.params.pull);
      await sendThumbnail(request, response, await exports.thumbnail(stored, uses));
    })
    .get('/:id/sheets/:sheet/proof.png', async (request, response) => {
      const { id, sheet } = request.params;
      const file = await exports.proof(await jobs.stored(id), sheet, await beforeOf(id, request));
      response.attachment(`${file.name}.png`);
      await handFile(response, file, 'image/png');
    })
    .get('/:id/proofs.zip', async (request, response) => {
      const { id } = request.params;
      const { name, makers } = await exports.proofs(await jobs.stored(id), await beforeOf(id, request));
      await sendZip(response, `${name} proofs`, makers);
    })
    .get('/:id/sheets.zip', async (request, response) => {
      const { as, sheets } = asked(request);
      const { name, makers } = await exports.zip(await jobs.stored(request.params.id), as, sheets);
      await sendZip(response, name, makers);
    })
    .get('/:id/sheets/:sheet/preview', async (request, response) => {
      const { id, sheet } = request.params;
      const { as, side } = asked(request);
      await handFile(response, await exports.preview(await jobs.stored(id), sheet, as, side), 'image/png');
    });
  for (const format of SHEET_FORMATS) {
    router.get(`/:id/sheets/:sheet/${format.id}`, async (request, response) => {
      const options = parseQuery(format.options, request);
      const { id, sheet } = request.params;
      const { block } = parseQuery(sheetsQuerySchema, request);
      const file = await exports.sheet(await jobs.stored(id), sheet, { format, options, block });
      response.attachment(file.name + endingOf(format, options));
      await handFile(response, file, format.mediaType);
    });
    if (format.kind !== 'pages') continue;
    router.get(`/:id/sheets${format.extension}`, async (request, response) => {
      const options = parseQuery(format.options, request);
      const { sheets } = parseQuery(sheetsQuerySchema, request);
      const stored = await jobs.stored(request.params.id);
      const file = await exports.sheets(stored, await exports.wanted(stored, sheets), { format, options });
      response.attachment(file.name + endingOf(format, options));
      await handFile(response, file, format.mediaType);
    });
  }
  return router;
}

/** The request of a query: a format with its options, and of which sheets. @throws ProblemError 422 */
function asked(request: Request): { as: WrittenAs; sheets: readonly string[] | undefined; side: number } {
  const { format: id, sheets, block, side } = parseQuery(sheetsQuerySchema, request);
  const format = formatCalled(id);
  return { as: { format, options: parseQuery(format.options, request), block }, sheets, side };
}

/** @throws ProblemError 422 */
function formatCalled(id: string): SheetFormat {
  const format = SHEET_FORMATS.find((one) => one.id === id);
  if (format) return format;
  throw new ProblemError(422, 'invalid', 'The query is not valid', `format: there are ${SHEET_FORMATS.map((one) => one.id).join(', ')}.`);
}
