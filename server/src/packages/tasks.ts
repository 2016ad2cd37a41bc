import { task } from '../pool/task';

const taking = () => import('./take-package');

export const packageTasks = {
  takePackage: task('takePackage', 'files', async () => (await taking()).takePackage),
  filePackage: task('filePackage', 'files', async () => (await taking()).filePackage),
  packPackage: task('packPackage', 'drawing', async () => (await import('./pack-package')).packPackage),
};
