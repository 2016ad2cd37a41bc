/** `jentrix ends`: larger end letters of a block. */
import { writeFileSync } from 'node:fs';
import { writeJobFile } from '@jentrix/core/formats';
import { endsSchema, updateBlock } from '@jentrix/core/job';
import { type Command, blockIn, jobIn, numberOf } from '../command';
import { UsageError } from '../usage-error';

export const ends: Command = {
  name: 'ends',
  usage: ['JOB.json -o OUT.json [--ratio R] [--of words|lines] [--which first|last|both] [--level foot|middle|top] [--block ID]'],
  says: 'Sets the first and last letters of words or lines larger; --ratio 1 removes it.',
  example: 'poster.jentrix.json -o ends.jentrix.json --ratio 1.3 --of words',
  options: ['output', 'ratio', 'of', 'which', 'level', 'block'],
  run(values, files, { out }) {
    if (values.output === undefined) throw new UsageError('-o OUT.json is needed.');
    const job = jobIn(files);
    const { block } = blockIn(job, values.block);
    const ratio = numberOf('ratio', values.ratio, 0.2, 5);
    const read = endsSchema.safeParse({ of: values.of, which: values.which, align: values.level, ratio });
    if (!read.success) throw new UsageError('--of takes words or lines, --which first, last or both, --level foot, middle or top.');
    writeFileSync(values.output, writeJobFile(updateBlock(job, block.id, (now) => ({ ...now, ends: ratio === 1 ? null : read.data }))));
    out(`${ratio === 1 ? 'no end letters' : `ends at ${Math.round(ratio * 100)} %`}, written to ${values.output}\n`);
    return 0;
  },
};
