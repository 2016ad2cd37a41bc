import { ChangeDetectionStrategy, Component } from '@angular/core';

/** The name with its two stems. */
@Component({
  selector: 'jx-wordmark',
  template: '<span class="stems" aria-hidden="true"></span>Jentrix',
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: var(--jx-wordmark-gap, 8px);
      font-family: var(--jx-display);
      font-weight: 700;
      font-size: var(--jx-wordmark-size, 18px);
      color: var(--jx-ink);
    }
    .stems {
      width: 8px;
      height: 14px;
      border-left: 2px solid var(--jx-accent);
      border-right: 2px solid var(--jx-ink);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Wordmark {}
