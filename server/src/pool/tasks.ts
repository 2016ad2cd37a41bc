/**
 * Everything that is done in processes of their own, and in which pool. What a task needs is loaded when it is first asked for, so that a
 * process that reads jobs does not hold a renderer; loading counts against no task.
 */
const draw = () => import('../drawing/draw');
const filing = () => import('../jobs/filing');

/** Pools by what they serve: saving waits for no file of a stranger, and the shelf for no long export. */
export const POOLS = ['saves', 'files', 'drawing', 'views'] as const;
export type PoolName = (typeof POOLS)[number];

const task = <W>(pool: PoolName, load: () => Promise<W>) => ({ pool, load });

export const tasks = {
  fileBody: task('saves', async () => (await filing()).fileBody),
  fileStored: task('saves', async () => (await filing()).fileStored),
  filePull: task('saves', async () => (await import('../pulls/file-pull')).filePull),

  fileNewBody: task('files', async () => (await import('../pulls/file-with-pulls')).fileNewBody),
  describeFont: task('files', async () => (await import('../faces/describe-font')).describeFont),
  listFonts: task('files', async () => (await import('../faces/describe-font')).listFonts),
  takePicture: task('files', async () => (await import('../pictures/take-picture')).takePicture),
  takeFile: task('files', async () => (await import('../intake/take-file')).importUpload),
  takePackage: task('files', async () => (await import('../packages/take-package')).takePackage),
  filePackage: task('files', async () => (await import('../packages/take-package')).filePackage),

  drawSheets: task('drawing', async () => (await draw()).drawSheets),
  drawPairs: task('drawing', async () => (await draw()).drawPairs),
  drawProof: task('drawing', async () => (await draw()).drawProof),
  packPackage: task('drawing', async () => (await import('../packages/pack-package')).packPackage),
  jobFile: task('drawing', async () => (await filing()).jobFile),
  jobFileWithPulls: task('drawing', async () => (await import('../pulls/file-with-pulls')).jobFileWithPulls),

  drawPreview: task('views', async () => (await draw()).drawPreview),
  drawThumbnail: task('views', async () => (await draw()).drawThumbnail),
  measureJob: task('views', async () => (await import('../measures/measure-job')).measureJob),
};

type Tasks = typeof tasks;
export type TaskName = keyof Tasks;
type Work<K extends TaskName> = Awaited<ReturnType<Tasks[K]['load']>>;
export type TaskInput<K extends TaskName> = Parameters<Work<K>>[0];
export type TaskResult<K extends TaskName> = Awaited<ReturnType<Work<K>>>;
