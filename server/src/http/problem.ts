/** RFC 9457 problem details: every error the server answers with. */
import { FileError, WordedError } from '@jentrix/core/base';
import { FaceError } from '@jentrix/core/face';
import { DrawingTooLargeError, PictureTooLargeError } from '@jentrix/core/formats';
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

/** The part of an error that is sent. */
export type SentProblem = Pick<ProblemError, 'status' | 'type' | 'title' | 'detail' | 'extra'>;

export const notFound = (what: string): ProblemError => new ProblemError(404, 'not-found', 'Not found', `There is no such ${what}.`);

/** Answers with a problem. @param members more of it, as JSON already. */
export function sendProblem(response: Response, { status, type, title, detail, extra }: SentProblem, members: Readonly<Record<string, string>> = {}): void {
  const problem = JSON.stringify({ type: `/problems/${type}`, title, status, ...(detail ? { detail } : {}), ...extra });
  const more = Object.entries(members).map(([name, json]) => `,${JSON.stringify(name)}:${json}`);
  response
    .status(status)
    .type('application/problem+json')
    .send(`${problem.slice(0, -1)}${more.join('')}}`);
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
  sendProblem(response, problemOf(error));
};

/** Nothing can be kept: the data folder is not where it was. */
export const GONE_PROBLEM = new ProblemError(
  503,
  'data-gone',
  'The data folder is gone',
  'The database was moved or deleted, so nothing is saved. Your edits stay in this browser. Put the folder back, or let Jentrix save the data again.',
);

/** SQLite's problems, by the beginning of its result code (sqlite.org/rescode.html). */
const DATABASE_PROBLEMS: readonly (readonly [RegExp, SentProblem])[] = [
  [
    /^SQLITE_FULL/,
    new ProblemError(
      507,
      'disk-full',
      'The disk is full',
      'Nothing is saved until there is room. Saved work is safe; your edits stay in this browser. Free space on the disk of the data folder.',
    ),
  ],
  [
    /^SQLITE_(CORRUPT|NOTADB)/,
    new ProblemError(500, 'damaged-database', 'The database is damaged', 'Part of it can’t be read. Restore a backup from the menu of the shelf.'),
  ],
  [
    /^(SQLITE_READONLY|SQLITE_CANTOPEN|SQLITE_PERM|EROFS|EACCES|EPERM)/,
    new ProblemError(
      503,
      'read-only',
      'The data folder can’t be written',
      'Nothing is saved: the folder is read-only for Jentrix. Your edits stay in this browser. Give Jentrix permission to write there.',
    ),
  ],
  [
    /^(SQLITE_IOERR|EIO)/,
    new ProblemError(
      503,
      'disk-error',
      'The disk reports an error',
      'Nothing is saved until it is fixed. Your edits stay in this browser. Check the disk and copy the data folder elsewhere.',
    ),
  ],
  [/^SQLITE_(BUSY|LOCKED)/, new ProblemError(503, 'busy', 'The database is busy', 'Another program uses it. Try again in a moment.')],
];

/** Turns any error into what is said of it; one that isn’t ours is logged, and nothing of it told. */
export function problemOf(error: unknown): SentProblem {
  if (error instanceof ProblemError) return error;
  if (error instanceof JobFormatError) return new ProblemError(422, 'bad-job', 'This job can’t be opened', error.message);
  if (error instanceof FaceError) return new ProblemError(422, 'bad-font', 'This font can’t be opened', error.message);
  if (error instanceof FileError) return new ProblemError(422, 'bad-file', 'The file can’t be read', error.message);
  if (error instanceof PictureTooLargeError) return new ProblemError(413, 'picture-too-large', 'The picture is too large', error.message);
  if (error instanceof DrawingTooLargeError) return new ProblemError(413, 'drawing-too-large', 'The drawing is too large', error.message);
  if (error instanceof WordedError && error.name === 'OwnedError') return new ProblemError(409, 'owned', 'Another server uses the data folder', error.message);
  const code = problemProperty(error, 'code');
  if (code === 'ENOSPC' || code === 'EDQUOT') return problemOf({ code: 'SQLITE_FULL' });
  const database = typeof code === 'string' && DATABASE_PROBLEMS.find(([pattern]) => pattern.test(code));
  if (database) return database[1];
  if (error instanceof TypeError && /database connection is not open/i.test(error.message)) return problemOf({ code: 'SQLITE_BUSY' });
  if (error instanceof RangeError && /call stack/i.test(error.message))
    return new ProblemError(422, 'too-deep', 'Nested too deep', 'Its parts are nested too deep to be read.');
  const status = statusOf(error);
  if (status === 413) return new ProblemError(413, 'too-large', 'Too large', 'The request is larger than the server accepts.');
  if (status && status >= 400 && status < 500) {
    return new ProblemError(status, 'bad-request', 'The request can’t be understood', error instanceof Error ? error.message : undefined);
  }
  console.error(error);
  return new ProblemError(500, 'internal', 'Something went wrong in the server', 'Saved work is safe.');
}

const problemProperty = (error: unknown, name: string): unknown =>
  typeof error === 'object' && error !== null ? (error as Record<string, unknown>)[name] : undefined;

function statusOf(error: unknown): number | undefined {
  const status = problemProperty(error, 'status');
  return typeof status === 'number' ? status : undefined;
}
