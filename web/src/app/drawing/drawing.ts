import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { type DrawingNode, type Fill, type Gradient, type GroupNode, type LettersNode, type RuleNode, aspectOf } from '@jentrix/core/drawing';
import type { Box } from '@jentrix/core/setting';
import { EngineService } from '../engine/engine.service';
import { instanceKey } from '../engine/protocol';
import { fromPen } from './from-pen';

interface ShownPath {
  /** Offset in the words; -1 for list marks and ellipses, which are not among them. */
  at: number;
  /** In points, from where the pen stands. */
  data: string;
}

interface ShownBox {
  x: number;
  y: number;
  width: number;
  height: number;
}

interface ShownFill {
  paint: string;
  gradient: (Gradient & { id: string }) | undefined;
}

/** Letters of one style as they are written. */
type ShownLetters = { kind: 'letters'; paths: ShownPath[]; rules: (ShownBox & { transform: string | null })[]; stroke: LettersNode['stroke'] } & ShownFill;

/** A node as the template writes it. */
type Shown =
  | { kind: 'group'; transform: string | null; opacity: number | null; blur: { id: string; deviation: number } | undefined; nodes: Shown[] }
  | ShownLetters
  | ({ kind: 'rectangle'; box: ShownBox } & ShownFill)
  | { kind: 'picture'; box: ShownBox; href: string; aspect: string };

@Component({
  selector: 'linearGradient[jxGradient]',
  template: `
    <svg:stop [attr.stop-color]="line().from" />
    <svg:stop offset="1" [attr.stop-color]="line().to" />
  `,
  host: {
    gradientUnits: 'userSpaceOnUse',
    '[attr.id]': 'line().id',
    '[attr.x1]': 'line().x1',
    '[attr.y1]': 'line().y1',
    '[attr.x2]': 'line().x2',
    '[attr.y2]': 'line().y2',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GradientView {
  readonly line = input.required<Gradient & { id: string }>({ alias: 'jxGradient' });
}

/** Letters of one style: looked at again only where they are others. */
@Component({
  selector: 'g[jxLettersNode]',
  imports: [GradientView],
  template: `
    @if (node().gradient; as line) {
      <svg:linearGradient [jxGradient]="line"></svg:linearGradient>
    }
    @for (path of node().paths; track $index) {
      <svg:path [attr.d]="path.data" [attr.data-at]="path.at" [attr.stroke-width]="node().stroke?.widthPt" />
    }
    @for (rule of node().rules; track $index) {
      <svg:rect [attr.x]="rule.x" [attr.y]="rule.y" [attr.width]="rule.width" [attr.height]="rule.height" [attr.transform]="rule.transform" stroke="none" />
    }
  `,
  host: { '[attr.fill]': 'node().paint', '[attr.stroke]': 'node().stroke?.colour', '[attr.stroke-linejoin]': 'node().stroke?.join' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LettersView {
  readonly node = input.required<ShownLetters>({ alias: 'jxLettersNode' });
}

let drawings = 0;

/** A drawing as SVG elements, in points: whoever holds this scales it. It draws what it is given and nothing of its own. */
@Component({
  selector: '[jxDrawing]',
  imports: [GradientView, LettersView, NgTemplateOutlet],
  template: `
    <ng-container *ngTemplateOutlet="list; context: { $implicit: shown() }" />
    <ng-template #list let-nodes>
      @for (node of nodes; track $index) {
        @switch (node.kind) {
          @case ('group') {
            @if (node.blur; as blur) {
              <svg:filter [attr.id]="blur.id" x="-1" y="-1" width="3" height="3"><svg:feGaussianBlur [attr.stdDeviation]="blur.deviation" /></svg:filter>
            }
            <svg:g [attr.transform]="node.transform" [attr.opacity]="node.opacity" [attr.filter]="node.blur ? 'url(#' + node.blur.id + ')' : null">
              <ng-container *ngTemplateOutlet="list; context: { $implicit: node.nodes }" />
            </svg:g>
          }
          @case ('letters') {
            <svg:g [jxLettersNode]="node"></svg:g>
          }
          @case ('rectangle') {
            @if (node.gradient; as line) {
              <svg:linearGradient [jxGradient]="line"></svg:linearGradient>
            }
            <svg:rect [attr.x]="node.box.x" [attr.y]="node.box.y" [attr.width]="node.box.width" [attr.height]="node.box.height" [attr.fill]="node.paint" />
          }
          @case ('picture') {
            <svg:image
              [attr.x]="node.box.x"
              [attr.y]="node.box.y"
              [attr.width]="node.box.width"
              [attr.height]="node.box.height"
              [attr.href]="node.href"
              [attr.preserveAspectRatio]="node.aspect"
            />
          }
        }
      }
    </ng-template>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Drawing {
  private readonly engine = inject(EngineService);
  readonly nodes = input.required<readonly DrawingNode[]>({ alias: 'jxDrawing' });
  private readonly id = `drawing-${++drawings}`;

  protected readonly shown = computed(() => {
    let made = 0;
    return this.show(this.nodes(), () => `${this.id}-${made++}`);
  });

  private show(nodes: readonly DrawingNode[], newId: () => string): Shown[] {
    return nodes.map((node): Shown => {
      switch (node.kind) {
        case 'group': {
          const blur = node.blurPt === undefined ? undefined : { id: newId(), deviation: node.blurPt };
          return { kind: 'group', transform: svgTransform(node), opacity: node.opacity ?? null, blur, nodes: this.show(node.nodes, newId) };
        }
        case 'letters':
          return this.lettersOf(node, newId);
        case 'rectangle':
          return { kind: 'rectangle', box: shownBox(node.box), ...shownFill(node.fill, newId) };
        case 'picture':
          return {
            kind: 'picture',
            box: shownBox(node.box),
            href: `/api/pictures/${node.pictureId}?fit=${node.fit}`,
            aspect: aspectOf(node.fit),
          };
      }
    });
  }

  /** Letters as they were written last, by what they were written from: most of a sheet stays as it is. */
  private written = new WeakMap<LettersNode, ShownLetters>();
  private outlines = -1;

  private lettersOf(node: LettersNode, newId: () => string): ShownLetters {
    // Outlines have come: letters that were without may have theirs now.
    if (this.outlines !== this.engine.outlinesCame) {
      this.outlines = this.engine.outlinesCame;
      this.written = new WeakMap();
    }
    const known = this.written.get(node);
    if (known) return known;
    const letters: ShownLetters = {
      kind: 'letters',
      paths: this.pathsOf(node),
      rules: node.rules.map(shownRule),
      stroke: node.stroke,
      ...shownFill(node.fill, newId),
    };
    // A gradient is named anew each time.
    if (typeof node.fill === 'string') this.written.set(node, letters);
    return letters;
  }

  private pathsOf({ style, glyphs }: LettersNode): ShownPath[] {
    const outlines = this.engine.drawing(instanceKey(style))?.outlines;
    if (!outlines) return [];
    return glyphs.map(({ glyphId, matrix, at = -1 }) => ({ at, data: fromPen(outlines, glyphId, matrix) })).filter(({ data }) => data !== '');
  }
}

/** Clockwise around a point, then moved, as SVG writes it. */
export function svgTransform({ turn, move }: Pick<GroupNode, 'turn' | 'move'>): string | null {
  const steps = [...(move ? [`translate(${move.xPt} ${move.yPt})`] : []), ...(turn ? [`rotate(${turn.degrees} ${turn.xPt} ${turn.yPt})`] : [])];
  return steps.length > 0 ? steps.join(' ') : null;
}

const shownBox = ({ leftPt, topPt, rightPt, bottomPt }: Box): ShownBox => ({ x: leftPt, y: topPt, width: rightPt - leftPt, height: bottomPt - topPt });

const shownRule = ({ box, matrix }: RuleNode): ShownBox & { transform: string | null } => ({
  ...shownBox(box),
  transform: matrix ? `matrix(${matrix.a} ${matrix.b} ${matrix.c} ${matrix.d} ${matrix.e} ${matrix.f})` : null,
});

function shownFill(fill: Fill, newId: () => string): ShownFill {
  if (typeof fill === 'string') return { paint: fill, gradient: undefined };
  const id = newId();
  return { paint: `url(#${id})`, gradient: { ...fill, id } };
}
