import { task } from '../pool/task';

const filing = () => import('./filing');
const withPulls = () => import('./file-with-pulls');

export const filingTasks = {
  fileBody: task('fileBody', 'saves', async () => (await filing()).fileBody),
  fileStored: task('fileStored', 'saves', async () => (await filing()).fileStored),
  filePull: task('filePull', 'saves', async () => (await import('./file-pull')).filePull),
  fileNewBody: task('fileNewBody', 'files', async () => (await withPulls()).fileNewBody),
  jobFile: task('jobFile', 'drawing', async () => (await filing()).jobFile),
  jobFileWithPulls: task('jobFileWithPulls', 'drawing', async () => (await withPulls()).jobFileWithPulls),
};
