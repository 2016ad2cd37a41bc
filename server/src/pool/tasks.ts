/**
 * Everything that is done in processes of their own. What a task needs is loaded when it is first asked for, so that a process that
 * reads jobs does not hold a renderer; loading counts against no task.
 */
const draw = () => import('../drawing/draw');
const filing = () => import('../jobs/filing');

export const tasks = {
  drawSheets: async () => (await draw()).drawSheets,
  drawPairs: async () => (await draw()).drawPairs,
  drawPreview: async () => (await draw()).drawPreview,
  drawProof: async () => (await draw()).drawProof,
  drawThumbnail: async () => (await draw()).drawThumbnail,
  describeFont: async () => (await import('../faces/describe-font')).describeFont,
  listFonts: async () => (await import('../faces/describe-font')).listFonts,
  takePicture: async () => (await import('../pictures/take-picture')).takePicture,
  takeFile: async () => (await import('../intake/take-file')).takeFile,
  fileBody: async () => (await filing()).fileBody,
  fileStored: async () => (await filing()).fileStored,
  fileNewBody: async () => (await import('../pulls/file-with-pulls')).fileNewBody,
  jobFileWithPulls: async () => (await import('../pulls/file-with-pulls')).jobFileWithPulls,
  packPackage: async () => (await import('../packages/pack-package')).packPackage,
  takePackage: async () => (await import('../packages/take-package')).takePackage,
  filePackage: async () => (await import('../packages/take-package')).filePackage,
  filePull: async () => (await import('../pulls/file-pull')).filePull,
  measureJob: async () => (await import('../measures/measure-job')).measureJob,
  jobFile: async () => (await filing()).jobFile,
};

type Tasks = typeof tasks;
export type TaskName = keyof Tasks;
type Work<K extends TaskName> = Awaited<ReturnType<Tasks[K]>>;
export type TaskInput<K extends TaskName> = Parameters<Work<K>>[0];
export type TaskResult<K extends TaskName> = Awaited<ReturnType<Work<K>>>;
