import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { drawBlock, drawGround } from '@jentrix/core/drawing';
import { parseLength, toPoints } from '@jentrix/core/units';
import { Drawing, svgTransform } from '../../../drawing/drawing';
import { showValue } from '../../../ui/numbers';
import { ValueField, type ValueChange } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { LOOKS, type LookId, Looks, blurOf } from '../../state/looks';
import { ProofState, type SheetChanges } from './proof.state';
import { ReadingCaret } from './reading-caret';
import { CARD_MM, SCREEN_MM, Screen, angleSeen } from './screen';

/** Widths of small pictures of the sheet, in pixels. */
const SMALL = [136, 60, 28, 14];
const PT_PER_MM = toPoints(1, 'mm');

/** The use of each. */
const SAYS: Readonly<Record<LookId, string>> = {
  blurred: 'As the eye sees it from the viewing distance. Shows dark and light spots.',
  'upside down': 'Stops you reading, so you see the spaces.',
  mirrored: 'Checks the balance of left and right.',
  reversed: 'Light letters look heavier and wider spaced.',
  grey: 'Shows tone without colour.',
  white: 'Shows the shapes between letters.',
  three: 'Three at a time. Arrow keys move along the line.',
};

/** Ways of looking at the sheet with fresh eyes: none of them changes the job. */
@Component({
  selector: 'jx-looks-panel',
  imports: [Drawing, ValueField],
  template: `
    <section i18n-aria-label="@@looksPanel.views" class="ways" aria-label="Views">
      @for (look of ways; track look.id) {
        <button type="button" class="way" [attr.aria-pressed]="looks.on().has(look.id)" (click)="toggle(look.id)">
          <span>
            {{ look.name }}
            <kbd>{{ look.key }}</kbd>
          </span>
          <small class="quiet">{{ says[look.id] }}</small>
        </button>
      }
      <button type="button" class="way" [attr.aria-pressed]="reading.on()" (click)="reading.toggle()">
        <span>
          Reading caret
          <kbd>9</kbd>
        </span>
        <small i18n="@@looksPanel.movesAtThePaceOf" class="quiet">Moves at the pace of reading aloud. Space slows it.</small>
      </button>
    </section>
    <section i18n-aria-label="@@looksPanel.sizeAndDistance" class="far" aria-label="Size and distance">
      <jx-value
        i18n-label="@@looksPanel.seenFrom"
        label="Seen from"
        unit="m"
        [value]="metres()"
        [min]="0.1"
        [max]="500"
        [print]="inMetres"
        [parse]="metresFrom"
        (changed)="setDistance($event)"
      />
      <p class="quiet" data-testid="geometry">{{ geometry() }}</p>
      @if (several()) {
        <label class="row-of">
          Sheets side by side
          <select class="form-select form-select-sm" (change)="state.row.set($any($event.target).value)">
            @for (row of rows; track row.id) {
              <option [value]="row.id" [selected]="state.row() === row.id">{{ row.says }}</option>
            }
          </select>
        </label>
      }
      <div class="buttons">
        <button i18n="@@looksPanel.showAtThatDistance" type="button" class="btn btn-outline-dark btn-sm" (click)="screen.fromAfar()">
          Show at that distance
        </button>
        <button i18n="@@looksPanel.trueSize" type="button" class="btn btn-outline-dark btn-sm" (click)="screen.trueSize()">True size</button>
        <button type="button" class="btn btn-link btn-sm" [attr.aria-expanded]="measuring()" (click)="measuring.set(!measuring())">
          {{ screen.measured() === undefined ? 'Measure this screen' : 'Screen measured' }}
        </button>
      </div>
      @if (measuring()) {
        <p i18n="@@looksPanel.holdABankCardTo" class="quiet">
          Hold a bank card to the screen and drag the bar to its width. Or use a ruler: the bar is {{ card }} mm.
        </p>
        <div class="bar" [style.width.px]="cardPx()"></div>
        <input
          i18n-aria-label="@@looksPanel.widthOfABankCard"
          type="range"
          aria-label="Width of a bank card on this screen"
          min="180"
          max="720"
          step="0.5"
          [value]="cardPx()"
          (input)="screen.calibrate(+$any($event.target).value)"
        />
        <button i18n="@@looksPanel.reset" type="button" class="btn btn-link btn-sm" (click)="screen.calibrate(undefined)">Reset</button>
      }
    </section>
    <section i18n-aria-label="@@looksPanel.small" class="small" aria-label="Small">
      @if (picture(); as picture) {
        @for (width of sizes(); track width) {
          <svg
            [attr.width]="width"
            [attr.height]="(width * picture.height) / picture.width"
            [attr.viewBox]="'0 0 ' + picture.width + ' ' + picture.height"
            role="img"
            [attr.aria-label]="'The sheet ' + width + ' pixels wide'"
          >
            <svg:g [jxDrawing]="picture.ground"></svg:g>
            @for (block of picture.blocks; track block.id) {
              <svg:g [attr.transform]="block.turn"><svg:g [jxDrawing]="block.nodes"></svg:g></svg:g>
            }
          </svg>
        }
      }
    </section>
  `,
  styles: `
    :host {
      --columns: minmax(0, 1fr) 230px 300px;
    }
    section {
      overflow: hidden auto;
      padding: 8px 14px;
      border-right: 1px solid var(--jx-rule);
    }
    .ways {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
      grid-auto-rows: max-content;
      gap: 6px;
      align-content: start;
    }
    .way {
      display: flex;
      flex-direction: column;
      padding: 5px 8px;
      border: 1px solid var(--jx-rule);
      border-radius: 3px;
      background: var(--jx-sheet);
      color: inherit;
      text-align: left;
    }
    .way > span {
      display: flex;
      justify-content: space-between;
    }
    .way small {
      font-size: 12px;
      line-height: 1.3;
    }
    .way[aria-pressed='true'] {
      outline: 2px solid var(--jx-accent);
    }
    p {
      margin: 4px 0;
      font-size: 12px;
    }
    .buttons {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
    .row-of {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr);
      gap: 8px;
      align-items: center;
      margin: 2px 0 6px;
    }
    .bar {
      height: 14px;
      background: var(--jx-accent);
    }
    input[type='range'] {
      width: 100%;
    }
    .small {
      display: flex;
      align-items: flex-end;
      gap: 8px;
      border: 0;
      background: var(--jx-table);
    }
    svg {
      flex: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LooksPanel {
  protected readonly looks = inject(Looks);
  protected readonly screen = inject(Screen);
  protected readonly reading = inject(ReadingCaret);
  private readonly store = inject(BenchStore);
  private readonly setting = this.store.current.setting;

  protected readonly state = inject(ProofState);
  private readonly job = this.store.current.job;
  protected readonly several = computed(() => (this.job()?.sheets.length ?? 0) > 1);
  protected readonly rows: readonly { id: SheetChanges; says: string }[] = [
    { id: 'off', says: 'This sheet alone' },
    { id: 'top', says: 'Align: top' },
    { id: 'baseline', says: 'Align: baseline' },
    { id: 'capitals', says: 'Align: cap height' },
  ];
  protected readonly ways = LOOKS;
  protected readonly says = SAYS;
  protected readonly card = CARD_MM;
  protected readonly measuring = signal(false);
  protected readonly cardPx = computed(() => this.screen.pxPerMm() * CARD_MM);
  protected readonly metres = computed(() => this.looks.distanceMm() / 1000);
  protected readonly inMetres = (value: number): string => showValue(value, 2);
  /** Metres, or any length with its unit. */
  protected readonly metresFrom = (text: string): number =>
    /^[\d.,\s]+m?$/.test(text) ? Number(text.replace(',', '.').replace('m', '')) : parseLength(text, 'mm') / PT_PER_MM / 1000;

  /** The reading distance of this sheet. */
  protected readonly geometry = computed(() => {
    const sheet = this.store.current.sheet();
    if (!sheet) return '';
    const distance = this.looks.distanceMm();
    const wide = sheet.widthPt / PT_PER_MM;
    const angle = angleSeen(sheet.widthPt, distance);
    const onScreen = showValue((wide * SCREEN_MM) / distance, 0);
    return `From there the ${showValue(wide, 0)} mm sheet looks ${onScreen} mm wide on this screen (${showValue(angle, 1)}°). Detail below ${showValue(blurOf(distance), 2)} pt blurs.`;
  });

  protected readonly picture = computed(() => {
    const set = this.setting();
    if (!set) return undefined;
    return {
      width: set.sheet.widthPt,
      height: set.sheet.heightPt,
      ground: drawGround(set.sheet),
      blocks: [...set.blocks.values()].map(({ block, setting }) => {
        const drawing = drawBlock(block, setting);
        return { id: block.id, nodes: drawing.nodes, turn: svgTransform(drawing) };
      }),
    };
  });
  protected readonly sizes = computed(() => {
    const picture = this.picture();
    // Tall sheets are no wider than their height allows.
    const most = picture ? Math.min(1, (190 * picture.width) / picture.height / (SMALL[0] ?? 1)) : 1;
    return SMALL.map((width) => Math.round(width * most));
  });

  protected toggle(id: (typeof LOOKS)[number]['id']): void {
    this.looks.toggle(id);
    if (id === 'three' && !this.store.view.gap) this.store.walk(1);
  }

  protected setDistance({ value }: ValueChange): void {
    this.looks.distanceMm.set(value * 1000);
  }
}
