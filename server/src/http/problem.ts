/** RFC 9457 problem details: every error the server answers with. */
import { WordedError } from '@jentrix/core/errors';
import { FaceError } from '@jentrix/core/face';
import { JobFormatError } from '@jentrix/core/job';
import type { ErrorRequestHandler, RequestHandler, Response } from 'express';

/** An error with an answer of its own. `type` is the last part of the problem's identifier. */
export class ProblemError extends WordedError {
  override readonly name = 'ProblemError';

  constructor(
    readonly status: number,
    readonly type: string,
    readonly title: string,
    readonly detail?: string,
    /** Extension members, such as the current revision of a stale write. */
    readonly extra: Readonly<Record<string, unknown>> = {},
  ) {
    super(detail ?? title);
  }
}

export const notFound = (what: string): ProblemError => new ProblemError(404, 'not-found', 'Not found', `There is no such ${what}.`);

function send(response: Response, { status, type, title, detail, extra }: ProblemError): void {
  response
    .status(status)
    .type('application/problem+json')
    .send(JSON.stringify({ type: `/problems/${type}`, title, status, ...(detail ? { detail } : {}), ...extra }));
}

/** Answers requests to the API that nothing else has answered. */
export const unknownRoute: RequestHandler = (request) => {
  throw new ProblemError(404, 'not-found', 'Not found', `There is nothing at ${request.method} ${request.path}.`);
};

/** The last handler: turns any error into a problem; what is not ours is logged and told nothing of. */
export const problemHandler: ErrorRequestHandler = (error: unknown, _request, response, next) => {
  if (response.headersSent) {
    next(error);
    return;
  }
  send(response, asProblem(error));
};

function asProblem(error: unknown): ProblemError {
  if (error instanceof ProblemError) return error;
  if (error instanceof JobFormatError) return new ProblemError(422, 'bad-job', 'Not a job that can be opened', error.message);
  if (error instanceof FaceError) return new ProblemError(422, 'bad-font', 'Not a font that can be opened', error.message);
  const status = statusOf(error);
  if (status === 413) return new ProblemError(413, 'too-large', 'Too large', 'The request is larger than the server takes.');
  if (status && status >= 400 && status < 500) {
    return new ProblemError(status, 'bad-request', 'The request can’t be understood', error instanceof Error ? error.message : undefined);
  }
  console.error(error);
  return new ProblemError(500, 'internal', 'Something went wrong in the server', 'Nothing that was saved before is lost.');
}

function statusOf(error: unknown): number | undefined {
  if (typeof error !== 'object' || error === null || !('status' in error)) return undefined;
  return typeof error.status === 'number' ? error.status : undefined;
}
