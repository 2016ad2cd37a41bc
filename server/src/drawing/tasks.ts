import { task } from '../pool/task';

const draw = () => import('./draw');

export const drawingTasks = {
  drawSheets: task('drawSheets', 'drawing', async () => (await draw()).drawSheets),
  drawPairs: task('drawPairs', 'drawing', async () => (await draw()).drawPairs),
  drawProof: task('drawProof', 'drawing', async () => (await draw()).drawProof),
  drawPreview: task('drawPreview', 'views', async () => (await draw()).drawPreview),
  drawThumbnail: task('drawThumbnail', 'views', async () => (await draw()).drawThumbnail),
  measureJob: task('measureJob', 'views', async () => (await import('./measure-job')).measureJob),
};
