import { task } from '../pool/task';

const fonts = () => import('./describe-font');

export const faceTasks = {
  describeFont: task('describeFont', 'files', async () => (await fonts()).describeFont),
  listFonts: task('listFonts', 'files', async () => (await fonts()).listFonts),
};
