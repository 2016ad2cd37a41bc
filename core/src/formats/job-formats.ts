/** The formats of a whole job. */
import * as z from 'zod';
import { type JobFormat, jobFormat } from './format';
import { JOB_FILE_EXTENSION, JOB_FILE_TYPE } from './job-file';
import { onOrOff } from './on-or-off';

export const fileFormat = jobFormat({
  kind: 'job',
  id: 'file',
  name: 'Job file',
  says: 'to continue elsewhere',
  mediaType: JOB_FILE_TYPE,
  extension: JOB_FILE_EXTENSION,
  options: z.object({ pulls: onOrOff }),
  fields: [{ kind: 'switch', name: 'Pulls', key: 'pulls', says: 'with kept states' }],
});

export const packageFormat = jobFormat({
  kind: 'job',
  id: 'package',
  name: 'Package',
  says: 'with pictures, pulls, recipes and faces; opens anywhere',
  mediaType: 'application/zip',
  extension: '.jentrix.zip',
  options: z.object({}),
  fields: [],
});

export const pairsFormat = jobFormat({
  kind: 'job',
  id: 'pairs',
  name: 'Pairs',
  says: 'for fonts and other programs: CSV, JSON, feature code, fonts',
  mediaType: 'application/zip',
  extension: '-pairs.zip',
  options: z.object({ fonts: onOrOff }),
  fields: [{ kind: 'switch', name: 'Fonts', key: 'fonts', says: 'with these pairs, renamed, where the licence allows' }],
});

/** All formats a job can be handed over in. */
export const JOB_FORMATS: readonly JobFormat[] = [fileFormat, packageFormat, pairsFormat];
