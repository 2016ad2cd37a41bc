import { describeIssues } from '@jentrix/core/job';
import express, { type Request, type RequestHandler, Router } from 'express';
import type { z } from 'zod';
import { MAX_JOB_BYTES } from './sizes';
import { ProblemError } from './problem';

function parse<T extends z.ZodType>(schema: T, value: unknown, what: string): z.output<T> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  throw new ProblemError(422, 'invalid', `The ${what} is not valid`, describeIssues(result.error));
}

/** The request's JSON body, checked. @throws ProblemError 422 naming what is wrong. */
export const parseBody = <T extends z.ZodType>(schema: T, request: Request): z.output<T> => parse(schema, request.body as unknown, 'body');

/** The request's query, checked. @throws ProblemError 422 naming what is wrong. */
export const parseQuery = <T extends z.ZodType>(schema: T, request: Request): z.output<T> => parse(schema, request.query, 'query');

/**
 * The revision a write is based on (RFC 9110, section 13.1.1).
 * @throws ProblemError 428 without `If-Match`, 400 for one that names no revision.
 */
export function ifMatchRevision(request: Request): number {
  const header = request.get('if-match');
  if (header === undefined) {
    throw new ProblemError(428, 'revision-required', 'The revision is missing', 'A write must say in If-Match which revision it is based on.');
  }
  const match = /^(?:W\/)?"(\d{1,15})"$/.exec(header.trim());
  if (!match) throw new ProblemError(400, 'bad-revision', 'The revision can’t be read', 'If-Match must hold one revision in quotes, such as "7".');
  return Number(match[1]);
}

/** Takes a JSON body as bytes, to be read where it holds up nobody; `request.body` is a Buffer then. @param limit in bytes */
export const jsonBytesOf = (limit: number): RequestHandler =>
  Router()
    .use(express.raw({ limit, type: ['application/json', 'application/*+json'] }))
    .use((request, _response, next) => {
      if (!Buffer.isBuffer(request.body)) throw new ProblemError(422, 'invalid', 'The body is not valid', 'A JSON body is expected.');
      next();
    });

/** The same for one job. */
export const jsonBytes = jsonBytesOf(MAX_JOB_BYTES);

/** The body that puts a job on the shelf, of its JSON. */
export const onlyJob = (job: string): Buffer => Buffer.from(`{"job":${job}}`);
