/// <reference lib="webworker" />
/** Reads one picture: a worker of its own, so that the bench goes on and reading can be broken off. */
import { Face, loadHarfBuzz } from '@jentrix/core/face';
import { greyOf, readPicture } from '@jentrix/core/reading';
import { FaceSet, facesOf } from '@jentrix/core/setting';
import * as Comlink from 'comlink';
import type { ReadingWorker } from './reading-protocol';

// HarfBuzz has a top-level await: a static import would lose the first messages.
const ready = loadHarfBuzz();

const reading: ReadingWorker = {
  async read({ rgba, width, height, block, origin, standInId }, onProgress) {
    const grey = greyOf(rgba, width, height);
    if (!block) return readPicture(grey, undefined, onProgress);
    await ready;
    const faces = new FaceSet(standInId);
    await Promise.all(
      [...new Set([standInId, ...facesOf(block)])].map(async (id) => {
        const response = await fetch(`${origin}/api/faces/${encodeURIComponent(id)}/file`);
        if (response.ok) faces.add(id, await Face.open(new Uint8Array(await response.arrayBuffer())));
      }),
    );
    return readPicture(grey, { block, faces }, onProgress);
  },
};

Comlink.expose(reading);
