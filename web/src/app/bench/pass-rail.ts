import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { BenchStore } from './bench.store';
import { PASSES } from './pass';

/** The steps of the craft in their order. */
@Component({
  selector: 'jx-pass-rail',
  template: `
    <nav i18n-aria-label="@@passRail.passes" aria-label="Passes">
      @for (pass of passes; track pass.id) {
        <button
          type="button"
          [class.current]="pass.id === view().pass"
          [attr.aria-current]="pass.id === view().pass ? 'step' : null"
          [title]="'Key ' + pass.key.toUpperCase()"
          (click)="store.showPass(pass.id)"
        >
          {{ pass.name }}
          @if (counts()[pass.id]; as count) {
            <span class="count" aria-hidden="true" [title]="count + ' open findings'">{{ count }}</span>
            <span i18n="@@passRail.open" class="visually-hidden">, {{ count }} open {{ count === 1 ? 'finding' : 'findings' }}</span>
          }
        </button>
      }
    </nav>
  `,
  styles: `
    @media (max-width: 820px), (max-height: 520px) {
      :host {
        padding-left: 0 !important;
        overflow-x: auto;
      }
    }
    :host {
      display: block;
      border-bottom: 1px solid var(--jx-rule);
      padding-left: 252px;
    }
    nav {
      display: flex;
      height: 100%;
      gap: 4px;
      padding: 0 8px;
    }
    button {
      border: 0;
      border-bottom: 3px solid transparent;
      border-top: 3px solid transparent;
      padding: 0 12px;
      background: transparent;
      color: var(--jx-quiet);
    }
    button:hover {
      color: var(--jx-ink);
    }
    @media (max-width: 1180px) {
      nav {
        gap: 0;
      }
      button {
        padding: 0 7px;
      }
    }
    .count {
      display: inline-block;
      min-width: 20px;
      margin-left: 4px;
      padding: 0 5px;
      border: 1px solid var(--jx-tight);
      border-radius: 10px;
      color: var(--jx-tight);
      font-size: 12px;
      font-weight: 600;
      line-height: 17px;
      text-align: center;
    }
    .current {
      color: var(--jx-ink);
      font-weight: 600;
      border-bottom-color: var(--jx-accent);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PassRail {
  protected readonly store = inject(BenchStore);
  protected readonly view = this.store.current.view;
  protected readonly passes = inject(PASSES);
  private readonly found = this.store.current.findings;
  /** Open findings by pass. */
  protected readonly counts = computed(() => {
    const counts: Record<string, number> = {};
    for (const { pass } of this.found().findings) counts[pass] = (counts[pass] ?? 0) + 1;
    return counts;
  });
}
