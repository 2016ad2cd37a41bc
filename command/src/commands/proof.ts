import { writeFileSync } from 'node:fs';
import { checkJob } from '@jentrix/core/findings';
import { pngFormat } from '@jentrix/core/formats';
import { DEFAULT_STYLE, type Sheet } from '@jentrix/core/job';
import { proofPage } from '@jentrix/core/proof';
import { type Command, jobAt, jobIn, numberOf } from '../command';
import { facesForJob } from '../fonts';
import { picturesBeside, picturesOf } from '../pictures';
import { UsageError } from '../usage-error';

/** How wide the page is, in pixels. */
const WIDTH_PX = 2400;

export const proof: Command = {
  name: 'proof',
  usage: ['JOB.json -o OUT.png [--before OTHER.json] [--sheet N] [--faces DIR] [--pictures DIR]'],
  says: 'Writes a proof sheet as PNG: a sheet, the earlier state beside it where given, the changes, the faces and the findings.',
  example: 'poster.jentrix.json -o proof.png --before earlier.jentrix.json',
  options: ['output', 'before', 'sheet', 'faces', 'pictures'],
  async run(values, files, { out, error }) {
    if (values.output === undefined) throw new UsageError('-o OUT.png is needed.');
    const job = jobIn(files);
    const earlier = values.before === undefined ? undefined : jobAt(values.before);
    const sheet = job.sheets[numberOf('sheet', values.sheet, 1, job.sheets.length) - 1];
    if (!sheet) throw new UsageError('--sheet takes a whole number.');
    const all = { ...job, sheets: [...job.sheets, ...(earlier?.sheets ?? [])] };
    const { faces, missing } = await facesForJob(all, values.faces, [DEFAULT_STYLE.faceId]);
    for (const id of missing) error(`jentrix: the face “${id}” is missing; a substitute is used.\n`);
    const state = (of: typeof job) => ({ job: of, check: checkJob(of, faces) });
    const drawing = proofPage({
      ...{ sheetId: sheet.id, after: state(job), before: earlier && state(earlier), faces },
      date: new Date().toISOString().slice(0, 10),
    });
    const shown: Sheet[] = [sheet, ...(earlier?.sheets.filter(({ id }) => id === sheet.id) ?? [])];
    const pictures = new Map(shown.flatMap((one) => [...picturesOf(one, values.pictures ?? picturesBeside(files[0] ?? ''))]));
    const { renderSheetOnDemand: renderSheet } = await import('@jentrix/core/rendering');
    const height = Math.ceil((WIDTH_PX * drawing.heightPt) / drawing.widthPt);
    writeFileSync(values.output, await renderSheet({ drawing, faces, pictures }, pngFormat.id, { width: WIDTH_PX, height }));
    out(`Proof of “${sheet.name}”, ${WIDTH_PX} × ${height} pixels, written to ${values.output}\n`);
    return 0;
  },
};
