/** `jentrix edges`: how the edges of a block's lines are aligned, what hangs outside them, and its centring by ink. */
import { writeFileSync } from 'node:fs';
import { writeJobFile } from '@jentrix/core/formats';
import { HANG_KINDS, type HangKind, USUAL_EDGES, resolveBlock, updateBlock, withLineIndent } from '@jentrix/core/job';
import { AREAS, areaOf, centreIn, hasArea, isArea } from '@jentrix/core/placing';
import { inkOf, seenLines, setBlock, straightLines } from '@jentrix/core/setting';
import { parseLength, printSigned, printValue } from '@jentrix/core/units';
import { type Command, blockIn, jobIn, numberOf } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

/** `quotes=1,dashes=0.5` @throws UsageError */
function hangIn(list: string): Partial<Record<HangKind, number>> {
  return Object.fromEntries(
    list.split(',').map((part) => {
      const [name = '', share = ''] = part.trim().split('=');
      if (!(HANG_KINDS as readonly string[]).includes(name)) throw new UsageError(`--hang takes ${HANG_KINDS.join(', ')}, not “${name}”.`);
      return [name, numberOf('hang', share, 0, 1)];
    }),
  );
}

export const edges: Command = {
  name: 'edges',
  usage: [
    'JOB.json [--block ID] [--json] [--faces DIR]',
    'JOB.json -o OUT.json [--block ID] [--optical SHARE] [--hang LIST] [--off] [--indent LIST] [--centre AREA | BOX] [--axis x|y|both] [--faces DIR]',
  ],
  says:
    'Lists the edges of a block’s lines: by advance, by ink, and optical. With -o: sets optical edges with hanging punctuation by kind; ' +
    'offsets lines manually; centres the block by its ink.',
  example: 'poster.jentrix.json',
  options: ['output', 'block', 'optical', 'hang', 'off', 'indent', 'centre', 'axis', 'json', 'faces'],
  async run(values, files, { out }) {
    const job = jobIn(files);
    const { sheet, block } = blockIn(job, values.block);
    const { faces } = await facesForJob(job, values.faces);
    let next = job;
    if (values.output !== undefined) {
      const { hang, optical } = block.edges ?? USUAL_EDGES;
      const touched = values.off || values.optical !== undefined || values.hang !== undefined || (values.indent === undefined && values.centre === undefined);
      const stated = {
        hang: { ...hang, ...(values.hang === undefined ? {} : hangIn(values.hang)) },
        optical: values.optical === undefined ? optical : numberOf('optical', values.optical, 0, 1),
      };
      if (touched) next = updateBlock(next, block.id, (now) => ({ ...now, edges: values.off ? null : stated }));
      const lines = straightLines(setBlock(resolveBlock(next, sheet.id, blockIn(next, block.id).block), faces));
      for (const part of values.indent?.split(',') ?? []) {
        const [, number = '', length = ''] = /^\s*(\d+)=(.+?)\s*$/.exec(part) ?? [];
        const line = lines[Number(number) - 1];
        if (!line) throw new UsageError(`--indent takes LINE=LENGTH, such as 2=4pt; there are ${lines.length} lines.`);
        next = withLineIndent(next, block.id, line.start, parseLength(length));
      }
      if (values.centre !== undefined) {
        const ink = inkOf(setBlock(resolveBlock(next, sheet.id, blockIn(next, block.id).block), faces), faces);
        if (!ink) throw new UsageError('The block has no ink.');
        if (values.centre === 'guides' && !hasArea(sheet, 'guides')) throw new UsageError('The sheet has no two guides to centre between.');
        const area = isArea(values.centre) ? areaOf(sheet, values.centre) : boxIn(values.centre);
        const { axis } = values;
        if (axis !== 'x' && axis !== 'y' && axis !== 'both') throw new UsageError('--axis takes x, y or both.');
        const by = centreIn(ink, area, axis);
        next = updateBlock(next, block.id, (now) => ({ ...now, frame: { ...now.frame, xPt: now.frame.xPt + by.xPt, yPt: now.frame.yPt + by.yPt } }));
      }
      writeFileSync(values.output, writeJobFile(next));
    }
    const now = resolveBlock(next, sheet.id, blockIn(next, block.id).block);
    const setting = setBlock(now, faces);
    const seen = seenLines(now, setting, faces);
    const rows = straightLines(setting).map((line, i) => {
      const ink = inkOf({ lines: [line] }, faces);
      return {
        line: i + 1,
        words: now.words.slice(line.start, line.visibleEnd),
        offsetPt: line.offsetPt ?? 0,
        advance: { leftPt: line.leftPt, rightPt: line.leftPt + line.widthPt },
        ink: ink ? { leftPt: ink.leftPt, rightPt: ink.rightPt } : null,
        seen: seen[i] ? { leftPt: seen[i].leftPt, rightPt: seen[i].rightPt } : null,
        letters: seen[i]?.letters ?? null,
      };
    });
    if (values.json) out(`${JSON.stringify(rows, null, 2)}\n`);
    else {
      for (const { line, words, offsetPt, ink, seen: at } of rows) {
        out(
          `${line} “${words}”: ${printSigned(offsetPt, 2)} pt, ink ${printValue(ink?.leftPt ?? 0)} to ${printValue(ink?.rightPt ?? 0)}, seen ${printValue(at?.leftPt ?? 0)} to ${printValue(at?.rightPt ?? 0)}\n`,
        );
      }
    }
    if (values.output !== undefined && !values.json) out(`written to ${values.output}\n`);
    return 0;
  },
};

/** `X,Y,WIDTH,HEIGHT` @throws UsageError */
function boxIn(text: string): { leftPt: number; topPt: number; rightPt: number; bottomPt: number } {
  const [x, y, width, height, more] = text.split(',').map((part) => parseLength(part));
  if (x === undefined || y === undefined || width === undefined || height === undefined || more !== undefined || width <= 0 || height <= 0) {
    throw new UsageError(`--centre takes ${AREAS.join(', ')}, or a box as X,Y,WIDTH,HEIGHT.`);
  }
  return { leftPt: x, topPt: y, rightPt: x + width, bottomPt: y + height };
}
