/** A proof to send: a sheet before beside after, with what has changed, what its words are set in, and what is still open, on one page. */
import { type Change, compareJobs, inShort, onLines } from '../compare';
import { type BlockDrawing, type DrawingNode, type SheetDrawing, drawBlock, drawSheet } from '../drawing';
import type { JobCheck, JobFinding } from '../findings';
import { type Block, type Job, type NamedFace, type Sheet, createBlock, resolveSheet, specOf } from '../job';
import { type BlockSetting, type FaceSet, setBlock, setSheet } from '../setting';

/** A state of the job with what it measures. */
export interface ProofVersion {
  job: Job;
  check: JobCheck;
}

export interface ProofOptions {
  sheetId: string;
  after: ProofVersion;
  before?: ProofVersion | undefined;
  /** Those of both states, and the one the page's own words are set in: that of a new style. */
  faces: FaceSet;
  /** As the page tells it. */
  date: string;
}

const PAPER = '#ffffff';
const INK = '#1f2528';
const QUIET = '#5c666b';
/** Everything on the page is in shares of its width. */
const EMS_WIDE = 105;
/** A page is no more than so long a list. */
const MOST_LISTED = 60;

/**
 * The page as a drawing, at the size of its sheets: what renders sheets renders it.
 * @throws RangeError where the later state has no such sheet.
 */
export function proofPage({ sheetId, after, before, faces, date }: ProofOptions): SheetDrawing {
  const index = after.job.sheets.findIndex(({ id }) => id === sheetId);
  const raw = after.job.sheets[index];
  if (!raw) throw new RangeError(`There is no sheet “${sheetId}”`);
  const sheet = resolveSheet(after.job, raw);
  const settings = setSheet(sheet, faces);
  const names = [...faces.entries()].map(([id, { family, style }]): NamedFace => ({ id, family, style }));
  const rawBefore = before?.job.sheets.find(({ id }) => id === sheetId);
  const was = before && rawBefore && resolveSheet(before.job, rawBefore);
  const shown = [
    ...(was ? [{ name: 'before', drawing: drawSheet(was, setSheet(was, faces)) }] : []),
    { name: was ? 'after' : '', drawing: drawSheet(sheet, settings) },
  ];

  const wide = shown.reduce((sum, { drawing }) => sum + drawing.widthPt, 0);
  // A page is never narrower than its lists need.
  const widthPt = Math.max(wide * 1.12, sheet.heightPt * 0.9);
  const em = widthPt / EMS_WIDE;
  const margin = 4 * em;
  const gutter = (widthPt - wide) / (shown.length + 1);
  const page = new ProofSheet(faces, em);

  page.add(`${after.job.title}: ${sheet.name}`, { xPt: margin, yPt: 3 * em, widthPt: widthPt - 2 * margin }, 2.2, INK);
  page.add(`${date}. ${measures(sheetId, before?.check, after.check)}`, { xPt: margin, yPt: 6.2 * em, widthPt: widthPt - 2 * margin }, 1.2, QUIET);
  const top = 10.5 * em;
  const nodes: DrawingNode[] = [];
  const sheets: { left: number; right: number; bottom: number }[] = [];
  let left = gutter;
  for (const { name, drawing } of shown) {
    nodes.push({ kind: 'group', nodes: [...drawing.ground, ...drawing.blocks], move: { xPt: left, yPt: top } });
    sheets.push({ left, right: left + drawing.widthPt, bottom: top + drawing.heightPt });
    if (name) page.add(name, { xPt: left, yPt: top - 1.8 * em, widthPt: drawing.widthPt }, 1, QUIET);
    left += drawing.widthPt + gutter;
  }
  const bottom = Math.max(...sheets.map((one) => one.bottom));

  const changes = was && ofSheet(before.job, after.job, sheet, settings);
  const open = after.check.findings.filter((finding) => isOn(finding, sheet));
  const lists = [
    ...(changes
      ? [
          {
            head: changes.length === 1 ? '1 change' : `${changes.length} changes`,
            lines: changes.map(({ says, words }) => `${says}${words ? `, in “${words}”` : ''}`),
          },
        ]
      : []),
    { head: 'Set in', lines: sheet.blocks.filter(({ words }) => words.trim() !== '').map((block) => `“${inShort(block.words, 32)}”: ${specOf(block, names)}`) },
    { head: open.length === 0 ? 'No findings' : `${open.length} findings`, lines: open.map(({ subject, message }) => `${subject}: ${message}`) },
  ];
  const column = (widthPt - 2 * margin) / lists.length;
  let lowest = bottom;
  lists.forEach(({ head, lines }, i) => {
    const place = { xPt: margin + i * column, widthPt: column - 2 * em };
    const headBottom = page.add(head, { ...place, yPt: bottom + 2.5 * em }, 1.2, INK);
    const more = lines.length > MOST_LISTED ? [`and ${lines.length - MOST_LISTED} more`] : [];
    lowest = Math.max(
      lowest,
      lines.length > 0 ? page.add([...lines.slice(0, MOST_LISTED), ...more].join('\n'), { ...place, yPt: headBottom + 0.6 * em }, 1, INK) : headBottom,
    );
  });
  const heightPt = lowest + 3 * em;
  return {
    ...{ widthPt, heightPt, unit: sheet.unit, name: `${after.job.title}, ${sheet.name}: proof` },
    ground: [rectangle(0, 0, widthPt, heightPt), ...nodes, ...around(sheets, { top, bottom, widthPt, heightPt })],
    blocks: page.blocks,
  };
}

/** Words of the page's own. */
class ProofSheet {
  readonly blocks: BlockDrawing[] = [];

  constructor(
    private readonly faces: FaceSet,
    private readonly em: number,
  ) {}

  /** @param size in ems of the page. @returns where the words end, from the page's top. */
  add(words: string, { xPt, yPt, widthPt }: { xPt: number; yPt: number; widthPt: number }, size: number, colour: string): number {
    const frame = { xPt, yPt, widthPt: Math.max(1, widthPt), heightPt: 1 };
    const block: Block = {
      ...createBlock(`proof-${this.blocks.length}`, words, frame, { sizePt: Math.max(1, size * this.em), colour }),
      leading: { kind: 'multiple', factor: 1.35 },
    };
    const setting = setBlock(block, this.faces);
    this.blocks.push(drawBlock(block, setting));
    return yPt + setting.heightPt;
  }
}

const rectangle = (leftPt: number, topPt: number, rightPt: number, bottomPt: number): DrawingNode => ({
  kind: 'rectangle',
  box: { leftPt, topPt, rightPt, bottomPt },
  fill: PAPER,
});

/** Paper around the sheets: what reaches over their edges would be cut off. */
function around(
  sheets: readonly { left: number; right: number; bottom: number }[],
  { top, bottom, widthPt, heightPt }: { top: number; bottom: number; widthPt: number; heightPt: number },
): DrawingNode[] {
  const edges = [0, ...sheets.flatMap(({ left, right }) => [left, right]), widthPt];
  const between = Array.from({ length: edges.length / 2 }, (_, i) => rectangle(edges[2 * i] ?? 0, top, edges[2 * i + 1] ?? 0, bottom));
  const below = sheets.map((one) => rectangle(one.left, one.bottom, one.right, heightPt));
  return [rectangle(0, 0, widthPt, top), ...between, rectangle(0, bottom, widthPt, heightPt), ...below];
}

/** The differences of one sheet, or of the job as a whole, with their lines. */
function ofSheet(before: Job, after: Job, sheet: Sheet, settings: readonly BlockSetting[]): Change[] {
  const bySheet = compareJobs(before, after).filter(({ sheetId }) => sheetId === undefined || sheetId === sheet.id);
  return onLines(bySheet, (blockId) => settings.find((setting) => setting.blockId === blockId)?.lines);
}

const isOn = (finding: JobFinding, { id, blocks }: Sheet): boolean => finding.sheetId === id || blocks.some((block) => block.id === finding.blockId);

function measures(sheetId: string, before: JobCheck | undefined, after: JobCheck): string {
  const evenOf = (check: JobCheck): string => {
    const blocks = check.blocks.filter((block) => block.sheetId === sheetId && block.evenness !== undefined);
    return blocks.length === 0 ? '–' : Math.round(blocks.reduce((sum, { evenness = 0 }) => sum + evenness, 0) / blocks.length).toString();
  };
  return before ? `Evenness ${evenOf(before)} before, ${evenOf(after)} after.` : `Evenness ${evenOf(after)}.`;
}
