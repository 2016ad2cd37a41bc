/** `jentrix turn`: a block turned along something, or its first two baselines brought onto two rules. */
import { writeFileSync } from 'node:fs';
import { writeJobFile } from '@jentrix/core/formats';
import { type Block, updateBlock } from '@jentrix/core/job';
import { type RuleEnds, ruleAngle, ledByRules, movedOntoRules } from '@jentrix/core/placing';
import { setBlock } from '@jentrix/core/setting';
import { type Command, blockIn, jobIn } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

/** @throws UsageError */
function ruleIn(name: string, text: string): RuleEnds {
  const [x1, y1, x2, y2, more] = text.split(',').map(Number);
  const all = [x1, y1, x2, y2];
  if (more !== undefined || !all.every((value) => Number.isFinite(value)) || (x1 === x2 && y1 === y2))
    throw new UsageError(`--${name} takes two places as X,Y,X,Y in points, not “${text}”.`);
  return { from: { xPt: x1 ?? 0, yPt: y1 ?? 0 }, to: { xPt: x2 ?? 0, yPt: y2 ?? 0 } };
}

export const turn: Command = {
  name: 'turn',
  usage: ['JOB.json -o OUT.json --along X,Y,X,Y [--and X,Y,X,Y] [--block ID] [--faces DIR]'],
  says: 'Rotates a block along a line on its sheet. With a second line, leading and position put its first two baselines on both.',
  example: 'flyer.jentrix.json -o turned.jentrix.json --along 40,200,300,160',
  options: ['output', 'along', 'and', 'block', 'faces'],
  async run(values, files, { out }) {
    if (values.output === undefined || values.along === undefined) throw new UsageError('-o OUT.json and --along X,Y,X,Y are needed.');
    const job = jobIn(files);
    const { block } = blockIn(job, values.block);
    const first = ruleIn('along', values.along);
    let next: Block = { ...block, rotationDeg: Math.round(ruleAngle(first) * 10) / 10 };
    if (values.and !== undefined) {
      const second = ruleIn('and', values.and);
      const led = ledByRules(block, first, second);
      if (!led) throw new UsageError('The two lines are the same.');
      const { faces } = await facesForJob(job, values.faces);
      next = movedOntoRules(led, setBlock(led, faces), first, second);
    }
    writeFileSync(values.output, writeJobFile(updateBlock(job, block.id, () => next)));
    out(`rotated by ${next.rotationDeg}°, written to ${values.output}\n`);
    return 0;
  },
};
