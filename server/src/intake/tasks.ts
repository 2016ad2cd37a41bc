import { task } from '../pool/task';

export const intakeTasks = {
  importUpload: task('importUpload', 'files', async () => (await import('./take-file')).importUpload),
};
