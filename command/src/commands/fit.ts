/** `jentrix fit`: lines of a block kept at a width, and all of them at a height. */
import { writeFileSync } from 'node:fs';
import { writeJobFile } from '@jentrix/core/formats';
import { acceptFinding, ledApart } from '@jentrix/core/findings';
import {
  type Fit,
  type FitTarget,
  type Job,
  LEVER_NAMES,
  type LeverName,
  type Levers,
  findBlock,
  leversWith,
  newFit,
  resolveBlock,
  updateBlock,
  withoutFit,
} from '@jentrix/core/job';
import { type LineFit, releaseFit, setBlock } from '@jentrix/core/setting';
import { UnitError, parseLength, printLeadings, printSigned, printValue } from '@jentrix/core/units';
import { type Command, blockIn, jobIn, numberOf, oneOf } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

/** Type from this size on is display type, in points: it is measured at its ink. */
const DISPLAY_PT = 24;

const isLever = (name: string): name is LeverName => (LEVER_NAMES as readonly string[]).includes(name);

/** @throws UsageError */
function lengthOf(option: string, text: string): number {
  try {
    const pt = parseLength(text);
    if (!(pt >= 1 && pt <= 50_000)) throw new UsageError(`--${option} takes 1 to 50000 pt, not ${text}.`);
    return pt;
  } catch (error) {
    if (error instanceof UnitError) throw new UsageError(`--${option}: ${error.message}`);
    throw error;
  }
}

/** @throws UsageError */
function targetIn(job: Job, text: string): FitTarget {
  if (text === 'frame' || text === 'margins') return { kind: text };
  const [from, to, more] = text.split('..');
  if (from !== undefined && to !== undefined && more === undefined) {
    const place = (value: string): number => {
      try {
        return parseLength(value);
      } catch (error) {
        throw error instanceof UnitError ? new UsageError(`--to: ${error.message}`) : error;
      }
    };
    return { kind: 'between', leftPt: place(from), rightPt: place(to) };
  }
  const [, id = '', line] = /^(.*?)(?::(\d+))?$/.exec(text) ?? [];
  if (findBlock(job, id)) return { kind: 'block', id, line: line === undefined ? null : numberOf('to', line, 1, 10_000) - 1 };
  return { kind: 'pt', pt: lengthOf('to', text) };
}

/** @throws UsageError */
function leversIn(list: string, limits: string | undefined): Levers {
  const shares: Partial<Record<LeverName, number>> = {};
  for (const part of list.split(',')) {
    const [name = '', share] = part.trim().split(':');
    if (!isLever(name)) throw new UsageError(`--by takes ${LEVER_NAMES.join(', ')}, not “${name}”.`);
    shares[name] = share === undefined ? 1 : numberOf('by', share, 0, 1000);
  }
  const most = Math.max(...Object.values(shares));
  if (!(most > 0)) throw new UsageError('--by leaves every lever alone.');
  const levers = leversWith(Object.fromEntries(Object.entries(shares).map(([name, share]) => [name, share / most])));
  for (const part of limits?.split(',') ?? []) {
    const [, name = '', least = '', to = ''] = /^\s*(\w+)=(.+?)\.\.(.+?)\s*$/.exec(part) ?? [];
    if (!isLever(name)) throw new UsageError(`--limits takes NAME=LEAST..MOST, not “${part}”.`);
    const range = { size: [0.02, 50], letters: [-1000, 5000], words: [-1000, 5000], width: [0.1, 10] }[name];
    const [min = 0, max = 0] = range;
    levers[name] = { ...levers[name], least: numberOf('limits', least, min, max), most: numberOf('limits', to, min, max) };
    if (levers[name].least > levers[name].most) throw new UsageError(`--limits of ${name}: the least is more than the most.`);
  }
  return levers;
}

/** @throws UsageError */
const linesIn = (list: string): Fit['lines'] => (list === 'all' ? 'all' : list.split(',').map((one) => numberOf('lines', one, 1, 10_000) - 1));

/** The value of each lever in words. */
const SAYS: Readonly<Record<LeverName, (value: number) => string>> = {
  size: (value) => `size ${printValue(value * 100)} %`,
  letters: (value) => `letters ${printSigned(value, 2)}`,
  words: (value) => `words ${printSigned(value, 2)}`,
  // Stems across are distorted by as much; those along the line are not.
  width: (value) => `width ${printValue(value * 100)} %, stems ${printSigned((value - 1) * 100)} %`,
};

function said({ naturalPt, targetPt, values, alone, missingPt }: LineFit, by: Levers): string {
  const taken = LEVER_NAMES.filter((name) => values[name] !== (name === 'size' || name === 'width' ? 1 : 0)).map((name) => SAYS[name](values[name]));
  const each = LEVER_NAMES.flatMap((name) => {
    const one = alone[name];
    if (!one) return [];
    const { least, most } = by[name];
    return [`${SAYS[name](one.value)}${one.beyond ? ` (over the limit ${SAYS[name](one.beyond === 'least' ? least : most)})` : ''}`];
  });
  const lacking = missingPt === 0 ? '' : `; ${printValue(Math.abs(missingPt), 3)} pt ${missingPt > 0 ? 'too narrow' : 'too wide'} within the limits`;
  return `${printValue(naturalPt, 3)} to ${printValue(targetPt, 3)} pt: ${taken.join(', ') || 'as it is'}${lacking}. On its own: ${each.join(', ') || 'nothing'}`;
}

export const fit: Command = {
  name: 'fit',
  usage: [
    'JOB.json -o OUT.json [--block ID] [--lines LIST] [--to MEASURE] [--by LEVERS] [--limits LIST] [--ink | --advance] [--overshoot SHARE] [--tenths] [--even | --even-by EDGES] [--height MEASURE] [--leading clear|keep] [--faces DIR]',
    'JOB.json -o OUT.json --release [--block ID] [--faces DIR]',
  ],
  says:
    'Fits lines to a width, and with --height all lines together to a height. --release keeps the fitted values and stops fitting. ' +
    'Prints what changed and what each lever would need on its own. Lines that would touch get more leading, unless --leading keep. Exit status 1 where the limits prevent the fit.',
  example: 'flyer.jentrix.json -o fitted.jentrix.json --to margins --by size',
  options: [
    'output',
    'block',
    'lines',
    'to',
    'by',
    'limits',
    'ink',
    'advance',
    'overshoot',
    'tenths',
    'even',
    'even-by',
    'height',
    'leading',
    'release',
    'json',
    'faces',
  ],
  async run(values, files, { out }) {
    if (values.output === undefined) throw new UsageError('-o OUT.json is needed.');
    const job = jobIn(files);
    const { sheet, block } = blockIn(job, values.block);
    const { faces } = await facesForJob(job, values.faces);
    if (values.release) {
      const free = releaseFit(resolveBlock(job, sheet.id, block), faces);
      writeFileSync(values.output, writeJobFile(withoutFit(job, block.id, free)));
      out(`${block.fit ? 'released' : 'was not fitted'}, written to ${values.output}\n`);
      return 0;
    }
    if (values.ink && values.advance) throw new UsageError('--ink and --advance exclude each other.');
    const by = leversIn(values.by, values.limits);
    const wanted = newFit({
      to: targetIn(job, values.to),
      lines: linesIn(values.lines),
      by,
      ink: values.ink || (!values.advance && block.style.sizePt >= DISPLAY_PT),
      overshoot: numberOf('overshoot', values.overshoot, 0, 1),
      steps: values.tenths,
      even: values['even-by'] === undefined ? values.even : oneOf('even-by', values['even-by'], ['flat', 'ink'] as const),
      height: values.height === undefined ? null : values.height === 'frame' ? { kind: 'frame' } : { kind: 'pt', pt: lengthOf('height', values.height) },
    });
    const fitted = updateBlock(job, block.id, (now) => ({ ...now, fit: wanted }));
    const keep = oneOf('leading', values.leading, ['clear', 'keep'] as const) === 'keep';
    const apart = keep ? undefined : ledApart(resolveBlock(fitted, sheet.id, findBlock(fitted, block.id) ?? block), faces);
    const next = acceptFinding(fitted, { blockId: block.id, ...(apart ? { proposal: apart } : {}) });
    writeFileSync(values.output, writeJobFile(next));
    const now = findBlock(next, block.id) ?? block;
    const setting = setBlock(resolveBlock(next, sheet.id, now), faces);
    const fits = setting.lines.flatMap((line, i) => (line.fit ? [{ line: i + 1, words: now.words.slice(line.start, line.visibleEnd), ...line.fit }] : []));
    const missingHeightPt = setting.missingHeightPt ?? 0;
    if (values.json) out(`${JSON.stringify({ lines: fits, missingHeightPt, leading: now.leading }, null, 2)}\n`);
    else {
      for (const one of fits) out(`${one.line} “${one.words}”: ${said(one, by)}\n`);
      if (apart) {
        const [from, to] = printLeadings(block.leading, now.leading, [block.style.sizePt, now.style.sizePt]);
        out(`leading ${from} to ${to}, so that no lines touch\n`);
      }
      if (Math.abs(missingHeightPt) > 0.005)
        out(`${printValue(Math.abs(missingHeightPt), 2)} pt ${missingHeightPt > 0 ? 'too low' : 'too high'} at the tightest leading\n`);
      out(`written to ${values.output}\n`);
    }
    return fits.some(({ missingPt }) => Math.abs(missingPt) > 0.005) || Math.abs(missingHeightPt) > 0.005 ? 1 : 0;
  },
};
