import { task } from '../pool/task';

export const pictureTasks = {
  takePicture: task('takePicture', 'files', async () => (await import('./take-picture')).takePicture),
};
