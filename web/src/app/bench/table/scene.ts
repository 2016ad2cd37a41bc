import { Injectable, computed, inject } from '@angular/core';
import type { Block } from '@jentrix/core/job';
import { type BlockDrawing, drawBlock, drawGround, fadedMarks } from '@jentrix/core/drawing';
import { type Point, areaOf, middleOf, turnedPoint } from '@jentrix/core/placing';
import { type BlockSetting, type SetLine, gapsOf, lineUnder } from '@jentrix/core/setting';
import { svgTransform } from '../../drawing/drawing';
import { BenchStore } from '../bench.store';
import { PASSES } from '../pass';
import { FadedMarks } from '../state/faded-marks';
import { Instead, type ShownSheet } from '../state/instead';
import { LetterPicks } from '../state/letter-picks';
import { Looks } from '../state/looks';
import { boxesOn, letterBoxOf, linePlaceOf, shiftAt } from './line-place';

export interface ShownBlock {
  block: Block;
  setting: BlockSetting;
  lines: readonly SetLine[];
  drawing: BlockDrawing;
  /** The turn of the block as an SVG transform. */
  turn: string | null;
}

/** The things on the table: the sheet that is seen, its blocks as drawings, and the overlays of the pass. In points of the sheet. */
@Injectable()
export class Scene {
  private readonly store = inject(BenchStore);
  private readonly passes = inject(PASSES);
  private readonly fadedMarks = inject(FadedMarks);
  private readonly letterPicks = inject(LetterPicks).picked;
  readonly instead = inject(Instead);
  readonly looks = inject(Looks);

  readonly view = this.store.current.view;
  private readonly setting = this.store.current.setting;
  /** The overlay of the current pass. */
  readonly overlay = computed(() => this.passes.find(({ id }) => id === this.view().pass)?.overlay ?? []);
  readonly sheet = this.store.current.sheet;
  readonly blocks = computed(() => this.drawAll([...(this.setting()?.blocks.values() ?? [])]));
  /** The sheet that is seen: the sheet that is worked on, or one that is shown instead of it. */
  readonly seen = computed(() => {
    const [instead, sheet] = [this.instead.shown(), this.sheet()];
    if (instead) return { sheet: instead.sheet, ground: drawGround(instead.sheet), blocks: this.drawAll(instead.blocks), instead: true };
    return sheet && { sheet, ground: this.ground(), blocks: this.blocks(), instead: false };
  });
  /** True while nothing on the sheet can be taken hold of. */
  readonly onlyShown = computed(() => this.seen()?.instead === true || this.instead.second() !== undefined || this.looks.onlyLooking());
  /** Where the current block's lines are aligned to, while that is shown. */
  readonly trueEdges = computed(() => {
    const shown = this.overlay().includes('true edges') ? this.current() : undefined;
    if (!shown || shown.setting.straight) return undefined;
    const { xPt, yPt, widthPt, heightPt } = shown.setting.frame;
    const middle = shown.block.align === 'centre';
    return { turn: shown.turn, at: middle ? [xPt + widthPt / 2] : [xPt, xPt + widthPt], top: yPt - heightPt * 0.1, bottom: yPt + heightPt * 1.1 };
  });
  /** The blocks that are worked on together. */
  readonly picked = computed(() => {
    const { blockId, also } = this.view();
    return this.blocks().filter(({ block }) => block.id === blockId || also.includes(block.id));
  });
  readonly ground = computed(() => {
    const sheet = this.sheet();
    return sheet ? drawGround(sheet) : [];
  });
  readonly margins = computed(() => {
    const sheet = this.sheet();
    return sheet && areaOf(sheet, 'margins');
  });
  readonly safe = computed(() => {
    const sheet = this.sheet();
    return sheet && sheet.safeShare > 0 ? areaOf(sheet, 'safe') : undefined;
  });
  /** The text caret or the picked letters, as boxes on the sheet. */
  readonly selection = computed(() => {
    const { selection, blockId } = this.view();
    const shown = this.blocks().find(({ block }) => block.id === blockId);
    if (!selection || !shown) return undefined;
    const { start, end } = selection;
    const caret = start === end;
    const boxes = shown.lines.flatMap((line, i) => {
      const last = i === shown.lines.length - 1;
      const inside = caret
        ? start >= line.start && (start < line.end || (last && start <= line.end) || start === line.visibleEnd)
        : start < line.end && end > line.start;
      if (!inside) return [];
      if (caret) return [{ ...letterBoxOf(line), x: linePlaceOf(line, start), width: 0, shift: shiftAt(line, start) }];
      return boxesOn(line, { start, end });
    });
    return { caret, boxes: caret ? boxes.slice(-1) : boxes, turn: shown.turn };
  });
  /** The letters that are picked apart, as boxes on the sheet. */
  readonly letters = computed(() => {
    const picks = this.overlay().includes('letters') ? this.letterPicks() : [];
    const shown = this.current();
    if (picks.length === 0 || !shown) return undefined;
    const boxes = shown.lines.flatMap((line) => picks.flatMap((letter) => (letter.start < line.end && letter.end > line.start ? boxesOn(line, letter) : [])));
    return { boxes, turn: shown.turn };
  });
  readonly current = computed(() => this.blocks().find(({ block }) => block.id === this.view().blockId));

  /** Where the gap caret stands on the sheet, in points. */
  readonly caret = computed(() => {
    const { gap } = this.view();
    const shown = this.blocks().find(({ block }) => block.id === gap?.blockId);
    for (const line of shown?.lines ?? []) {
      const place = gap && gap.at > line.start && gap.at < line.visibleEnd ? gapsOf(line).find(({ at }) => at === gap.at) : undefined;
      if (!place) continue;
      const [top, bottom] = [line.baselinePt - line.sizePt * 0.82, line.baselinePt + line.sizePt * 0.24];
      return { at: place.at, turn: shown?.turn ?? null, shift: shiftAt(line, place.at), x: place.xPt, top, bottom };
    }
    return undefined;
  });

  /** Drawings of the settings that are shown: a block that did not change is not drawn anew. */
  readonly drawings = new WeakMap<BlockSetting, { block: Block; drawing: BlockDrawing }>();

  readonly drawingOf = ({ block, setting }: ShownSheet['blocks'][number]): BlockDrawing => {
    const known = this.drawings.get(setting);
    if (known?.block === block) return known.drawing;
    const drawing = drawBlock(block, setting);
    this.drawings.set(setting, { block, drawing });
    return drawing;
  };

  private drawAll(blocks: ShownSheet['blocks']): ShownBlock[] {
    const faded = this.fadedMarks.faded();
    return blocks.map(({ block, setting }) => {
      const own = this.drawingOf({ block, setting });
      const drawing = faded ? { ...own, nodes: fadedMarks(own.nodes) } : own;
      return { block, setting, lines: setting.lines, drawing, turn: svgTransform(drawing) };
    });
  }

  readonly row = computed(() => this.instead.row().length > 0);
  /** Two sheets beside each other have half the room each. */
  readonly half = computed(() => this.instead.second()?.side === 'beside');
  /** The uppermost line under a point, seen as its block is turned. */
  lineAt(point: Point): { block: Block; line: SetLine; lines: readonly SetLine[]; xPt: number } | undefined {
    for (const { block, lines, setting } of [...this.blocks()].reverse()) {
      const { xPt, yPt } = turnedPoint(point, middleOf(setting.frame), -block.rotationDeg);
      const under = lineUnder(setting, { xPt, yPt });
      if (under) return { block, lines, ...under };
    }
    return undefined;
  }

  frameAt(point: Point): Block | undefined {
    return [...this.blocks()].reverse().find(({ block, setting: { frame } }) => {
      const { xPt, yPt } = turnedPoint(point, middleOf(frame), -block.rotationDeg);
      return xPt >= frame.xPt && xPt <= frame.xPt + frame.widthPt && yPt >= frame.yPt && yPt <= frame.yPt + frame.heightPt;
    })?.block;
  }
}
