/** Everything that is done in processes of their own. */
import { drawPng, drawSvg, drawThumbnail, pack } from '../drawing/draw';
import { describeFont } from '../faces/describe-font';
import { fileBody, fileStored, jobFile } from '../jobs/filing';
import { takePicture } from '../pictures/take-picture';

export const tasks = { drawPng, drawSvg, drawThumbnail, pack, describeFont, fileBody, fileStored, jobFile, takePicture };

export type Tasks = typeof tasks;
