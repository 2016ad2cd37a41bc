import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { FaceList } from '@jentrix/core/api';
import { Face } from '@jentrix/core/face';
import type { Job } from '@jentrix/core/job';
import { FaceSet, facesOf } from '@jentrix/core/setting';
import decodeWoff2 from 'woff2-encoder/decompress';
import { z } from 'zod';

const shippedSchema = z.array(z.object({ id: z.string(), file: z.string(), licence: z.string() }));

/** The face that stands in for those a job names and the library lacks. */
const STAND_IN = 'source-sans-3-regular';

/** The faces the server has on disk: listed, served, and opened for setting. */
export class FaceLibrary {
  private readonly shipped: z.infer<typeof shippedSchema>;
  private readonly opened = new FaceSet(STAND_IN);
  private listing: Promise<FaceList> | undefined;

  /** @param folder holds `faces.json` and the font files it names. */
  constructor(private readonly folder: string) {
    this.shipped = shippedSchema.parse(JSON.parse(readFileSync(join(folder, 'faces.json'), 'utf8')));
  }

  /** All faces with the names their files give them. Reads each file once in the life of the library. */
  list(): Promise<FaceList> {
    this.listing ??= this.readNames();
    return this.listing;
  }

  /** The path of a face's file, or undefined for a face that isn't here. */
  file(id: string): string | undefined {
    const entry = this.shipped.find((face) => face.id === id);
    return entry && join(this.folder, entry.file);
  }

  /** The library with every face a job names opened. */
  async forJob(job: Job): Promise<FaceSet> {
    const named = job.sheets.flatMap((sheet) => sheet.blocks.flatMap(facesOf));
    for (const id of new Set([STAND_IN, ...named])) {
      const file = this.file(id);
      if (!file || this.opened.has(id)) continue;
      const face = await openFile(file);
      if (this.opened.has(id)) face.dispose();
      else this.opened.add(id, face);
    }
    return this.opened;
  }

  private async readNames(): Promise<FaceList> {
    const items: FaceList['items'] = [];
    for (const { id, file, licence } of this.shipped) {
      const face = await openFile(join(this.folder, file));
      items.push({ id, family: face.family, style: face.style, licence });
      face.dispose();
    }
    return { items, standInId: STAND_IN };
  }
}

/** Opens any font file the server may meet, WOFF2 included. @throws FaceError */
export async function openFile(file: string): Promise<Face> {
  return Face.open(new Uint8Array(await readFile(file)), { decodeWoff2: (bytes) => decodeWoff2(bytes) });
}
