import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Other } from '@jentrix/core/api';
import { findBlock } from '@jentrix/core/job';
import { BenchStore } from '../bench.store';

/** Says who else has the job open, and at which block. */
@Component({
  selector: 'jx-who-is-here',
  template: `
    <span class="here" role="status" [title]="says().join('. ')">{{ says()[0] }}{{ says().length > 1 ? ' +' + (says().length - 1) : '' }}</span>
  `,
  styles: `
    .here {
      display: inline-block;
      max-width: 190px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      vertical-align: bottom;
      font-size: 12px;
      color: var(--jx-accent);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WhoIsHere {
  readonly others = input.required<readonly Other[]>();
  private readonly job = inject(BenchStore).current.job;

  /** A sentence each. */
  protected readonly says = computed(() =>
    this.others().map(({ who, blockId }) => {
      const job = this.job();
      const words = job && blockId !== null ? findBlock(job, blockId)?.words.split('\n')[0]?.trim().slice(0, 40) : undefined;
      return `${who === 'window' ? 'Open in another window' : 'Someone else is here'}${words ? `: “${words}”` : ''}`;
    }),
  );
}
