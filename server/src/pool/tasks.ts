/**
 * Everything that is done in processes of their own. What a task needs is loaded when it is first asked for, so that a process that
 * reads jobs does not hold a renderer.
 */
type Input<F> = F extends (input: infer I) => unknown ? I : never;

const draw = () => import('../drawing/draw');
const filing = () => import('../jobs/filing');
const fonts = () => import('../faces/describe-font');
const pictures = () => import('../pictures/take-picture');

type Drawing = Awaited<ReturnType<typeof draw>>;
type Filing = Awaited<ReturnType<typeof filing>>;

export const tasks = {
  drawPng: async (input: Input<Drawing['drawPng']>) => (await draw()).drawPng(input),
  drawSvg: async (input: Input<Drawing['drawSvg']>) => (await draw()).drawSvg(input),
  drawThumbnail: async (input: Input<Drawing['drawThumbnail']>) => (await draw()).drawThumbnail(input),
  pack: async (input: Input<Drawing['pack']>) => (await draw()).pack(input),
  describeFont: async (input: { path: string }) => (await fonts()).describeFont(input),
  takePicture: async (input: { path: string; out: string }) => (await pictures()).takePicture(input),
  fileBody: async (text: string) => (await filing()).fileBody(text),
  fileStored: async (input: Input<Filing['fileStored']>) => (await filing()).fileStored(input),
  jobFile: async (document: string) => (await filing()).jobFile(document),
};

export type Tasks = typeof tasks;
