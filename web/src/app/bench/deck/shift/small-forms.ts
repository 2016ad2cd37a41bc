import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { restyleRanges, styleAt, updateBlock } from '@jentrix/core/job';
import { type SetLine, straightLines } from '@jentrix/core/setting';
import { SMALL_KINDS, type SmallForm, type SmallKind, smallChanges } from '@jentrix/core/superiors';
import { ChoiceName } from '../../../ui/choice-name.pipe';
import { debounceTime, switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import { Glyphs } from '../../../drawing/glyphs';
import { BenchStore } from '../../bench.store';
import { LetterPicks } from '../../state/letter-picks';
import { lettersOnly, loneLine } from '../line-of-view';

/** How many letters are shown on both sides of those that are small. */
const BESIDE = 3;
const SIZE = { width: 196, height: 64 };

/** One way to set the picked letters small, with its picture. */
interface ShownForm extends SmallForm {
  line: SetLine | undefined;
}

/** The picked letters as superiors or inferiors: the font's own and made ones, both large, to choose by eye. */
@Component({
  selector: 'jx-small-forms',
  imports: [ChoiceName, Glyphs],
  template: `
    <div i18n-aria-label="@@smallForms.setThePickedLettersAs" class="choice" role="group" aria-label="Set the picked letters as">
      @for (one of kinds; track one) {
        <button type="button" [attr.aria-pressed]="kind() === one" (click)="kind.set(one)">{{ one | choiceName }}</button>
      }
    </div>
    @for (form of shown(); track form.source) {
      <button type="button" class="form" [attr.data-form]="form.source" [attr.aria-label]="'Set ' + kind() + ': ' + form.says" (click)="take(form)">
        @if (form.transform) {
          <svg [attr.viewBox]="'0 0 ' + size.width + ' ' + size.height" aria-hidden="true">
            <svg:g [attr.transform]="form.transform">
              <svg:g [jxGlyphs]="form.line" colour="var(--jx-ink)"></svg:g>
            </svg:g>
          </svg>
        }
        <span class="quiet">{{ form.says }}</span>
      </button>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 8px 12px 4px;
    }
    /* Two rows of two: four beside each other are wider than the list. */
    .choice {
      display: grid;
      grid-template-columns: 1fr 1fr;
      margin-bottom: 6px;
    }
    .choice button:nth-child(even) {
      border-right: 0;
    }
    .choice button:nth-child(n + 3) {
      border-top: 1px solid var(--jx-rule);
    }
    .form {
      display: block;
      width: 100%;
      margin-bottom: 6px;
      padding: 4px 6px;
      border: 1px solid var(--jx-rule);
      border-radius: 3px;
      background: var(--jx-sheet);
      text-align: left;
      font-size: 12px;
    }
    .form:hover {
      border-color: var(--jx-accent);
    }
    svg {
      display: block;
      width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SmallForms {
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly picks = inject(LetterPicks).picked;
  private readonly setting = this.store.current.setting;
  protected readonly kinds = SMALL_KINDS;
  protected readonly kind = signal<SmallKind>('superior');
  protected readonly size = SIZE;

  /** The letters, their kind, and the line they stand on. */
  private readonly asked = computed(() => {
    const set = this.setting()?.blocks.get(this.store.block?.id ?? '');
    return { picks: this.picks(), kind: this.kind(), set };
  });
  private readonly forms = toSignal(
    toObservable(this.asked).pipe(
      debounceTime(60),
      switchMap(async ({ picks, kind, set }): Promise<ShownForm[]> => {
        const [first] = picks;
        const line = set && straightLines(set.setting).find(({ start, end }) => first !== undefined && first.start >= start && first.start < end);
        if (!first || !set || !line || first.end > set.block.words.length) return [];
        const { block } = set;
        const style = styleAt(block, first.start);
        const letters = picks.filter(({ start, end }) => start >= line.start && end <= line.visibleEnd);
        const text = letters.map(({ start, end }) => block.words.slice(start, end)).join('');
        const forms = await this.engine.smallForms(style, text, kind).catch(() => []);
        const lone = loneLine(block, line, 'small');
        const own = letters.map(({ start, end }) => ({ start: start - line.start, end: end - line.start }));
        const blocks = forms.map((form, i) => ({ ...restyleRanges(lone, smallChanges(lone.words, own, form)), id: `small-${i}` }));
        const { settings } = await this.engine.tryOut(blocks).catch(() => ({ settings: [] }));
        const [from, to] = [(own[0]?.start ?? 0) - BESIDE, (own[own.length - 1]?.end ?? 0) + BESIDE];
        const near = new Set(Array.from({ length: Math.min(60, to - from) }, (_, i) => from + i));
        return forms.map((form, i) => {
          const tried = settings[i]?.lines[0];
          return { ...form, line: tried && lettersOnly(tried, near) };
        });
      }),
    ),
    { initialValue: [] },
  );

  protected readonly shown = computed(() =>
    this.forms().map((form) => {
      const { line } = form;
      const scale = line ? Math.min(SIZE.width / Math.max(1, line.widthPt), SIZE.height / (line.sizePt * 1.35)) : 1;
      const transform = line ? `translate(${-line.leftPt * scale} ${(line.sizePt - line.baselinePt) * scale}) scale(${scale})` : undefined;
      return { ...form, line: line as SetLine, transform };
    }),
  );

  protected take(form: SmallForm): void {
    const { block } = this.store;
    const picks = this.picks();
    if (block && picks.length > 0) this.store.apply((job) => updateBlock(job, block.id, (now) => restyleRanges(now, smallChanges(now.words, picks, form))));
  }
}
