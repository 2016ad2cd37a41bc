import type { Saved } from '@jentrix/core/api';
import type { Response } from 'express';
import type { StoredJob } from './jobs.service';

/** A record as JSON; the document goes in as it is. */
export const recordOf = ({ id, revision, updatedAt, document }: StoredJob): string =>
  `{"id":${JSON.stringify(id)},"revision":${revision},"updatedAt":${JSON.stringify(updatedAt)},"job":${document}}`;

export const sendRecord = (response: Response, stored: StoredJob): void => {
  response.set('etag', `"${stored.revision}"`).type('application/json').send(recordOf(stored));
};

/** Answers a write: whoever sent the job has it. */
export const sendSaved = (response: Response, { id, revision, updatedAt }: Saved): void => {
  response.set('etag', `"${revision}"`).json({ id, revision, updatedAt } satisfies Saved);
};
