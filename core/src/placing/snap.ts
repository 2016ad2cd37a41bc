/** Placing blocks: where edges meet lines worth meeting, and where a box is centred. Points, y down. */
import type { Sheet } from '../job';
import { type BlockSetting, type Box, baselinesOf } from '../setting';
import { runsAlong } from './guides';

/** A line that things snap to. */
export interface SnapLine {
  axis: 'x' | 'y';
  atPt: number;
  /** Its name for people. */
  kind: 'sheet edge' | 'margin' | 'guide' | 'rule' | 'centre' | 'title-safe' | 'block edge' | 'baseline';
}

/** How a box has to move to meet lines, and which lines those are. */
export interface Snapped {
  xPt: number;
  yPt: number;
  lines: SnapLine[];
}

/** Areas of a sheet that blocks are centred in. */
export const AREAS = ['sheet', 'margins', 'safe', 'guides'] as const;
export type Area = (typeof AREAS)[number];

export const isArea = (text: string): text is Area => (AREAS as readonly string[]).includes(text);

/** True where a sheet has the area: guides give one from two of a kind on. */
export function hasArea({ safeShare, guides }: Pick<Sheet, 'safeShare' | 'guides'>, area: Area): boolean {
  if (area === 'safe') return safeShare > 0;
  return area !== 'guides' || (['x', 'y'] as const).some((axis) => guides.filter((guide) => guide.axis === axis).length > 1);
}

/** The area that margins, or the title-safe share, leave free; or between the outermost guides, the sheet where there are no two. */
export function areaOf(sheet: Sheet, area: Area): Box {
  const { widthPt, heightPt, margins, safeShare, guides } = sheet;
  if (area === 'guides') {
    const ends = (axis: 'x' | 'y', length: number): [number, number] => {
      const places = guides.flatMap((guide) => (guide.axis === axis ? [guide.atPt] : []));
      return places.length > 1 ? [Math.min(...places), Math.max(...places)] : [0, length];
    };
    const [leftPt, rightPt] = ends('x', widthPt);
    const [topPt, bottomPt] = ends('y', heightPt);
    return { leftPt, topPt, rightPt, bottomPt };
  }
  if (area === 'margins') {
    const [leftPt, rightPt] = between(margins.leftPt, widthPt - margins.rightPt);
    const [topPt, bottomPt] = between(margins.topPt, heightPt - margins.bottomPt);
    return { leftPt, topPt, rightPt, bottomPt };
  }
  const share = area === 'safe' ? safeShare : 0;
  return { leftPt: widthPt * share, topPt: heightPt * share, rightPt: widthPt * (1 - share), bottomPt: heightPt * (1 - share) };
}

/** The ends of a stretch; where margins leave nothing, the place in the middle of what they take twice. */
const between = (from: number, to: number): [number, number] => (from <= to ? [from, to] : [(from + to) / 2, (from + to) / 2]);

/**
 * The lines of a sheet that a block can meet.
 * @param others the settings of the blocks that do not move.
 */
export function snapLines(sheet: Sheet, others: readonly BlockSetting[]): SnapLine[] {
  const lines: SnapLine[] = [];
  const both = (box: Box, kind: SnapLine['kind']): void => {
    lines.push(
      { axis: 'x', atPt: box.leftPt, kind },
      { axis: 'x', atPt: box.rightPt, kind },
      { axis: 'y', atPt: box.topPt, kind },
      { axis: 'y', atPt: box.bottomPt, kind },
    );
  };
  both(areaOf(sheet, 'sheet'), 'sheet edge');
  both(areaOf(sheet, 'margins'), 'margin');
  if (sheet.safeShare > 0) both(areaOf(sheet, 'safe'), 'title-safe');
  lines.push({ axis: 'x', atPt: sheet.widthPt / 2, kind: 'centre' }, { axis: 'y', atPt: sheet.heightPt / 2, kind: 'centre' });
  for (const guide of sheet.guides) {
    if (guide.axis !== 'rule') lines.push({ axis: guide.axis, atPt: guide.atPt, kind: 'guide' });
    else if (runsAlong(guide)) lines.push({ axis: 'y', atPt: (guide.from.yPt + guide.to.yPt) / 2, kind: 'rule' });
  }
  for (const { frame, lines: set, straight } of others) {
    both({ leftPt: frame.xPt, topPt: frame.yPt, rightPt: frame.xPt + frame.widthPt, bottomPt: frame.yPt + frame.heightPt }, 'block edge');
    // Words on a path have no level baseline.
    if (!straight) for (const atPt of set.flatMap(baselinesOf)) lines.push({ axis: 'y', atPt, kind: 'baseline' });
  }
  return lines;
}

/**
 * How far a box has to move to meet the nearest lines: its edges and its middle, and baselines of its own against baselines
 * and guides.
 * @param tolerancePt how near counts; farther lines do nothing.
 */
export function snapBox(box: Box, baselines: readonly number[], lines: readonly SnapLine[], tolerancePt: number): Snapped {
  const along = (axis: 'x' | 'y', edges: readonly number[]): { byPt: number; line: SnapLine } | undefined => {
    let best: { byPt: number; line: SnapLine } | undefined;
    for (const line of lines) {
      if (line.axis !== axis) continue;
      const meeting =
        line.kind === 'baseline' || line.kind === 'rule' || (line.kind === 'guide' && axis === 'y')
          ? [...baselines, ...(line.kind === 'guide' ? edges : [])]
          : edges;
      for (const edge of meeting) {
        const byPt = line.atPt - edge;
        if (Math.abs(byPt) <= tolerancePt && (!best || Math.abs(byPt) < Math.abs(best.byPt))) best = { byPt, line };
      }
    }
    return best;
  };
  const x = along('x', [box.leftPt, box.rightPt, (box.leftPt + box.rightPt) / 2]);
  const y = along('y', [box.topPt, box.bottomPt, (box.topPt + box.bottomPt) / 2]);
  return { xPt: x?.byPt ?? 0, yPt: y?.byPt ?? 0, lines: [x?.line, y?.line].filter((line) => line !== undefined) };
}

/** How far ink has to move so that its middle stands in the middle of an area. */
export function centreIn(ink: Box, area: Box, axis: 'x' | 'y' | 'both'): { xPt: number; yPt: number } {
  return {
    xPt: axis === 'y' ? 0 : (area.leftPt + area.rightPt - ink.leftPt - ink.rightPt) / 2,
    yPt: axis === 'x' ? 0 : (area.topPt + area.bottomPt - ink.topPt - ink.bottomPt) / 2,
  };
}
