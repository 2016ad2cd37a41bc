/** `jentrix white`: the white of one gap given to others. */
import { writeFileSync } from 'node:fs';
import { writeJobFile } from '@jentrix/core/formats';
import { type PairScope, withHand } from '@jentrix/core/job';
import { type WhiteTarget, giveWhite } from '@jentrix/core/same-white';
import { printSigned } from '@jentrix/core/units';
import { type Command, blockIn, jobIn, numberOf, oneOf, rangesIn } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

const SCOPES = ['block', 'sheet', 'job'] as const;

export const white: Command = {
  name: 'white',
  usage: ['JOB.json -o OUT.json --at N [--white N] (--range LIST | --alike | --everywhere block|sheet|job) [--block ID] [--json] [--faces DIR]'],
  says:
    'Gives the white of the gap before a letter to other gaps, as manual values: to those before picked letters, to all of its kind in its line ' +
    '(by the sides that face each other), or to the same two letters elsewhere. --white gives a value of your own in its place.',
  example: 'poster.jentrix.json -o even.jentrix.json --at 1 --alike',
  options: ['output', 'block', 'at', 'white', 'range', 'alike', 'everywhere', 'json', 'faces'],
  async run(values, files, { out }) {
    if (values.output === undefined || values.at === undefined) throw new UsageError('-o OUT.json and --at N are needed.');
    if ([values.range !== undefined, values.alike, values.everywhere !== undefined].filter(Boolean).length !== 1)
      throw new UsageError('One of --range, --alike and --everywhere is needed.');
    const job = jobIn(files);
    const { sheet, block } = blockIn(job, values.block);
    const at = numberOf('at', values.at, 1, Math.max(1, block.words.length - 1));
    const own = values.white === undefined ? undefined : numberOf('white', values.white, 0, 5000);
    const { faces } = await facesForJob(job, values.faces);
    const given = giveWhite(job, { blockId: block.id, at, whiteMilliem: own }, target(), faces);
    if (!given)
      throw new UsageError(`There is no gap with a white of its own before letter ${at} of “${block.id}”: words end there, or strokes join the letters.`);
    const next = given.hand.reduce((now, one) => withHand(now, one.blockId, one.at, one.milliem), job);
    writeFileSync(values.output, writeJobFile(next));
    if (values.json) out(`${JSON.stringify(given, null, 2)}\n`);
    else {
      for (const one of given.hand) out(`${one.blockId} ${one.at}: manual ${printSigned(one.milliem)}\n`);
      out(`white of ${given.whiteMilliem}/1000 em given to ${given.hand.length} ${given.hand.length === 1 ? 'gap' : 'gaps'}, written to ${values.output}\n`);
    }
    return 0;

    function target(): WhiteTarget {
      if (values.alike) return { kind: 'alike' };
      if (values.everywhere !== undefined) {
        const kind = oneOf('everywhere', values.everywhere, SCOPES);
        const scope: PairScope = kind === 'job' ? { kind } : { kind, id: kind === 'sheet' ? sheet.id : block.id };
        return { kind: 'pair', in: scope };
      }
      const places = rangesIn(values.range, block.words.length).flatMap(({ start, end }) => Array.from({ length: end - start }, (_, i) => start + i));
      return { kind: 'gaps', gaps: places.map((place) => ({ blockId: block.id, at: place })) };
    }
  },
};
