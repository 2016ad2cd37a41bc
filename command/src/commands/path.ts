/** `jentrix path`: has the lines of a block run straight, along a path or upright. */
import { writeFileSync } from 'node:fs';
import { writeJobFile } from '@jentrix/core/formats';
import { readPath } from '@jentrix/core/svg-text/path-data';
import { type Path, type PathKind, isRide, newPath, pathSchema, sayPath, updateBlock, withRadius, withRise } from '@jentrix/core/job';
import { setBlock, straightLines } from '@jentrix/core/setting';
import { type Command, blockIn, jobIn, numberOf, glyphText } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

const KINDS: readonly PathKind[] = pathSchema.options.map(({ shape }) => shape.kind.value);
const isKind = (text: string): text is PathKind => (KINDS as readonly string[]).includes(text);

/** A path in its own words, as JSON. @throws UsageError */
function stated(text: string): Path {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new UsageError('--path is no JSON.');
  }
  const path = pathSchema.safeParse(value);
  if (!path.success) throw new UsageError(`--path: ${path.error.issues[0]?.message ?? 'no path'}`);
  return path.data;
}

export const path: Command = {
  name: 'path',
  usage: ['JOB.json -o OUT.json --path KIND [--block ID] [--rise PT | --radius PT] [--faces DIR]'],
  says:
    `Sets the lines of a block along a path: ${KINDS.join(', ')}, where its first line stands; or by SVG path data, an SVG file, or a path as the job has it, as JSON. ` +
    'straight removes the path.',
  example: 'flyer.jentrix.json -o bent.jentrix.json --path arc --rise 40',
  options: ['output', 'path', 'block', 'rise', 'radius', 'faces'],
  async run(values, files, { out, error }) {
    if (values.output === undefined || values.path === undefined) throw new UsageError('-o OUT.json and --path KIND are needed.');
    const job = jobIn(files);
    const { block } = blockIn(job, values.block);
    const { faces } = await facesForJob(job, values.faces);
    const [first] = straightLines(setBlock(block, faces));
    const pathOf = (text: string): Path => {
      if (isKind(text)) return newPath(text, block.frame, (first?.baselinePt ?? block.frame.yPt) - block.frame.yPt, block.path);
      if (text.startsWith('{')) return stated(text);
      return readPath(/\.svg$/i.test(text) ? glyphText(text) : text);
    };
    let next = pathOf(values.path);
    if (values.rise !== undefined || values.radius !== undefined) {
      if (next.kind === 'arc') {
        if (values.rise !== undefined) next = withRise(next, numberOf('rise', values.rise, -50_000, 50_000));
        if (values.radius !== undefined) next = withRadius(next, numberOf('radius', values.radius, 1, 50_000));
      } else if (next.kind === 'circle' && values.radius !== undefined) {
        const radiusPt = numberOf('radius', values.radius, 1, 50_000);
        next = { ...next, radiusPt, centre: { ...next.centre, yPt: next.centre.yPt - next.radiusPt + radiusPt } };
      } else throw new UsageError('--rise is of an arc, --radius of an arc or a circle.');
    }
    const changed = updateBlock(job, block.id, (now) => ({ ...now, path: next }));
    writeFileSync(values.output, writeJobFile(changed));
    const set = setBlock({ ...block, path: next }, faces);
    if (isRide(next) && set.beyondPath) error('jentrix: the words are longer than the path.\n');
    out(`${sayPath(next)}, written to ${values.output}\n`);
    return 0;
  },
};
