import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { GapLedger, SetLine } from '@jentrix/core/setting';
import { EngineService } from '../../../engine/engine.service';
import { instanceKey } from '../../../engine/protocol';

const WIDTH = 130;
const HEIGHT = 54;

/** The two letters of a gap, apart, drawn from their own outlines. */
@Component({
  selector: 'svg[jxPair]',
  template: `
    @for (glyph of glyphs(); track $index) {
      <svg:path [attr.d]="glyph.data" [attr.transform]="glyph.transform" />
    }
  `,
  host: { viewBox: `0 0 ${WIDTH} ${HEIGHT}`, preserveAspectRatio: 'xMinYMid meet' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PairGlyphs {
  private readonly engine = inject(EngineService);
  readonly line = input.required<SetLine>({ alias: 'jxPair' });
  readonly ledger = input.required<GapLedger>();

  protected readonly glyphs = computed(() => {
    const { left, right } = this.ledger();
    const scale = 34 / this.ledger().sizePt;
    return [left, right].flatMap((letter, side) =>
      this.line().runs.flatMap((run) => {
        const outlines = this.engine.drawing(instanceKey(run.style))?.outlines;
        const own = run.glyphs.filter(({ cluster }) => cluster === letter.start);
        return own.map((glyph) => {
          const x = side * 62 + (glyph.xPt - (own[0] ? own[0].xPt - own[0].offsetPt : 0)) * scale;
          return { data: outlines?.get(glyph.glyphId) ?? '', transform: `translate(${x} 38) scale(${run.xScale * scale} ${run.scale * scale})` };
        });
      }),
    );
  });
}
