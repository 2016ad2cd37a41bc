import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { UserPreferences } from './user-preferences';
import { ToastService } from '../ui/toasts';

/** As many as are remembered as seen. */
const MOST_SEEN = 200;

/** A short hint beside what it speaks of: shown until it is put away, and then never again. It takes no room while there is none. */
@Component({
  selector: 'jx-hint',
  template: `
    @if (shown()) {
      <section i18n-aria-label="@@hint.hint" class="hint" aria-label="Hint">
        <p>
          <ng-content />
          {{ says() }}
        </p>
        <button i18n="@@hint.gotIt" type="button" class="btn btn-link btn-sm" (click)="putAway()">Got it</button>
        <button
          i18n="@@hint.noMoreHints"
          i18n-title="@@hint.turnThemOnAgainIn"
          type="button"
          class="btn btn-link btn-sm"
          title="Turn them on again in Preferences"
          (click)="noMore()"
        >
          No more hints
        </button>
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .hint {
      display: flex;
      align-items: center;
      gap: 10px;
      padding: 2px 14px;
      border-left: 3px solid var(--jx-accent);
      background: color-mix(in srgb, var(--jx-accent) 9%, var(--jx-paper));
      color: var(--jx-ink);
    }
    p {
      flex: 1;
      min-width: 0;
      margin: 0;
    }
    button {
      flex: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Hint {
  /** Under this name it is remembered as seen. */
  readonly name = input.required<string>();
  readonly says = input('');

  private readonly service = inject(UserPreferences);
  private readonly toasts = inject(ToastService);
  private readonly preferences = this.service.preferences;
  private readonly read = this.service.read;
  protected readonly shown = computed(() => {
    const { hints, hintsSeen } = this.preferences();
    return this.read() && hints && !hintsSeen.includes(this.name());
  });

  protected putAway(): void {
    const { hintsSeen } = this.service.current;
    void this.toasts.trying(() => this.service.change({ hintsSeen: [...hintsSeen, this.name()].slice(-MOST_SEEN) }));
  }

  protected noMore(): void {
    void this.toasts.trying(() => this.service.change({ hints: false }));
  }
}
