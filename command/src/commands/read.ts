/** `jentrix read`: a picture of type measured; with its words known, what they are set in. */
import { writeFileSync } from 'node:fs';
import { writeJobFile } from '@jentrix/core/formats';
import { type Block, type Job, createBlock, resolveBlock, updateBlock } from '@jentrix/core/job';
import { type KnownWords, type NoReading, type PictureReading, readPicture } from '@jentrix/core/reading';
import { TAKES, type Take, type TypeRead, takeReading, typeRead } from '@jentrix/core/reference';
import { FaceSet } from '@jentrix/core/setting';
import { printValue } from '@jentrix/core/units';
import { type Command, blockIn, jobAt, numberOf } from '../command';
import { facesForJob, openFontFile } from '../fonts';
import { pictureAt } from '../pixels';
import type { Values } from '../options';
import { UsageError } from '../usage-error';
import { axesOf } from './gaps';

/** The pixel size assumed where neither file nor option states one: a point. */
const USUAL_PIXELS_PER_INCH = 72;

const REASONS: Readonly<Record<NoReading, string>> = {
  'no type': 'There is no type in the picture.',
  'other words': 'These words in this face are not in the picture.',
};

export const read: Command = {
  name: 'read',
  usage: [
    'PICTURE [--ppi N] [--json]',
    'PICTURE --font FILE --text TEXT [--axes …] [--ppi N] [--json]',
    'PICTURE JOB.json [--block ID] [--apply LIST -o OUT.json] [--ppi N] [--json] [--faces DIR]',
  ],
  says:
    'Measures a picture of type (PNG, JPEG, WebP or SVG): lines, their angle, baselines, x-height, height of capitals and distance; with words and face known, ' +
    'those of --text or of a block of a job, also size, tracking and leading, each with its standard deviation. ' +
    'The resolution is --ppi, or what the file states, or 72 ppi. With --apply the block gets what was read: size, tracking, leading, angle, lines. The exit status is 1 where nothing was read. ' +
    'Example: jentrix read scan.png poster.jentrix.json --block headline --ppi 300 --apply size,tracking,leading -o matched.jentrix.json',
  example: 'scan.png --font Headline.otf --text "TWO NIGHTS" --ppi 300',
  options: ['font', 'text', 'axes', 'block', 'ppi', 'apply', 'json', 'output', 'faces'],
  async run(values, files, { out }) {
    const [path, jobFile, more] = files;
    if (path === undefined || more !== undefined) throw new UsageError('One picture is needed, and at most one job file.');
    if ((values.font === undefined) !== (values.text === undefined)) throw new UsageError('--font and --text go together.');
    if (jobFile !== undefined && values.font !== undefined) throw new UsageError('Either a job file or --font and --text say what the words are.');
    const takes = takesIn(values.apply);
    if (takes.length > 0 !== (values.output !== undefined)) throw new UsageError('--apply and -o OUT.json go together.');
    if (takes.length > 0 && jobFile === undefined) throw new UsageError('--apply needs a job file.');
    const known = await knownWords(values, jobFile);
    const { grey, pixelsPerInch: stated } = await pictureAt(path);
    const pixelsPerInch = values.ppi === undefined ? (stated ?? USUAL_PIXELS_PER_INCH) : numberOf('ppi', values.ppi, 1, 20_000);
    const scale = 72 / pixelsPerInch;

    const { picture, words, why } = readPicture(grey, known);
    const type = words && typeRead(words, { scale, turnDeg: 0 });
    if (values.json)
      out(`${JSON.stringify({ pixelsPerInch, why: why ?? null, picture: picture ?? null, words: words ?? null, type: type ?? null }, null, 2)}\n`);
    else {
      if (picture) out(tellPicture(picture, scale));
      if (type) out(tellType(type, words.likeness));
      if (why) out(`${REASONS[why]}\n`);
    }
    if (words && known?.job && values.output !== undefined) {
      const taken = takeReading(known.own, words, { xPt: 0, yPt: 0, scale, turnDeg: 0 }, takes);
      writeFileSync(values.output, writeJobFile(updateBlock(known.job, known.own.id, () => taken)));
      if (!values.json) out(`written to ${values.output}\n`);
    }
    return why ? 1 : 0;
  },
};

/** @throws UsageError */
function takesIn(list: string | undefined): Take[] {
  if (list === undefined) return [];
  return list.split(',').map((name) => {
    const take = TAKES.find((one) => one === name.trim());
    if (!take) throw new UsageError(`--apply takes ${TAKES.join(', ')}, not “${name}”.`);
    return take;
  });
}

/** The words to look for, and the block they are from as it stands in its job. */
async function knownWords(values: Values, jobFile: string | undefined): Promise<(KnownWords & { own: Block; job?: Job }) | undefined> {
  if (jobFile !== undefined) {
    const job = jobAt(jobFile);
    const { sheet, block } = blockIn(job, values.block);
    const { faces } = await facesForJob(job, values.faces);
    return { block: resolveBlock(job, sheet.id, block), faces, own: block, job };
  }
  if (values.font === undefined || values.text === undefined) return undefined;
  const faces = new FaceSet('face');
  faces.add('face', await openFontFile(values.font));
  const block = createBlock('words', values.text, { xPt: 0, yPt: 0, widthPt: 1000, heightPt: 100 }, { faceId: 'face', axes: axesOf(values.axes) });
  return { block, faces, own: block };
}

const px = (value: number, scale: number): string => `${printValue(value, 1)} px (${printValue(value * scale, 2)} pt)`;

function tellPicture({ lines, angleDeg, reversed, pitch }: PictureReading, scale: number): string {
  const head = `${lines.length === 1 ? '1 line' : `${lines.length} lines`}, rotated by ${printValue(angleDeg, 2)}°, ${reversed ? 'light on dark' : 'dark on light'}`;
  const rows = lines.map(({ from, to, xHeight, capHeight, letters, sure }, i) => {
    const heights = [
      ...(xHeight === undefined ? [] : [`x-height ${px(xHeight, scale)}`]),
      `${xHeight === undefined ? 'letters' : 'capitals'} ${px(capHeight, scale)}`,
    ];
    const place = [from, to].map(({ x, y }) => `${printValue(x, 1)},${printValue(y, 1)}`).join(' to ');
    return `${i + 1} baseline ${place}: ${[...heights, `${letters} marks`, `certain to ${Math.round(sure * 100)} %`].join(', ')}`;
  });
  return `${[head, ...rows, ...(pitch === undefined ? [] : [`lines ${px(pitch, scale)} apart`])].join('\n')}\n`;
}

function tellType(type: TypeRead, likeness: number): string {
  const parts = [
    `size ${printValue(type.sizePt, 2)} pt ± ${printValue(type.sizeErrorPt, 2)}`,
    ...(type.trackingMilliem === undefined ? [] : [`tracking ${printValue(type.trackingMilliem, 1)} ± ${printValue(type.trackingErrorMilliem, 1)}`]),
    ...(type.leadingPt === undefined || type.leadingFactor === undefined
      ? []
      : [`leading ${printValue(type.leadingPt, 2)} pt (${printValue(type.leadingFactor, 3)} ± ${printValue(type.leadingErrorFactor, 3)})`]),
    `angle ${printValue(type.angleDeg, 2)}°`,
    `alike to ${printValue(likeness * 100, 1)} %`,
  ];
  return `${parts.join(', ')}\n`;
}
