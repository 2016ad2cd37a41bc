import type { Block } from '@jentrix/core/job';
import type { PictureRead } from '@jentrix/core/reading';

/** A picture to be read, in pixels; its buffer is handed to the worker. */
export interface ReadRequest {
  rgba: Uint8ClampedArray;
  width: number;
  height: number;
  /** The words to look for, as they are set; none where only lines are measured. */
  block: Block | undefined;
  /** Where faces come from: the server's origin, and the face that stands in for missing ones. */
  origin: string;
  standInId: string;
}

/** The reading worker. It is ended when it is not wanted any more. */
export interface ReadingWorker {
  read(request: ReadRequest, onProgress: (share: number) => void): Promise<PictureRead>;
}
