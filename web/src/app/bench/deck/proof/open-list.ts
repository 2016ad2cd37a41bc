import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { type JobFinding, SEVERITIES } from '@jentrix/core/findings';
import { counted, inLanguage } from '../../../ui/numbers';
import { BenchStore } from '../../bench.store';
import { PASSES } from '../../pass';
import { OpenWalk } from './open-walk';
import { Comparison } from './comparison';
import { ChoiceName } from '../../../ui/choice-name.pipe';

/** Everything of the job that is still open, sheet by sheet: gone to, fixed, or silenced. */
@Component({
  selector: 'jx-open-list',
  imports: [ChoiceName],
  template: `
    <section i18n-aria-label="@@openList.filterFindings" class="deck-numbers" aria-label="Filter findings">
      <p class="verdict" role="status" data-testid="verdict">{{ verdict() }}</p>
      <label>
        Pass
        <select class="form-select form-select-sm" (change)="walk.pass.set($any($event.target).value || undefined)">
          <option i18n="@@openList.all" value="">All</option>
          @for (pass of passes(); track pass.id) {
            <option [value]="pass.id" [selected]="walk.pass() === pass.id">{{ pass.name }} {{ pass.count }}</option>
          }
        </select>
      </label>
      <label>
        Severity
        <select class="form-select form-select-sm" (change)="walk.severity.set($any($event.target).value || undefined)">
          <option i18n="@@openList.all" value="">All</option>
          @for (severity of severities; track severity) {
            <option [value]="severity" [selected]="walk.severity() === severity">{{ severity | choiceName }}</option>
          }
        </select>
      </label>
    </section>
    <div class="list">
      @for (group of groups(); track group.name) {
        <h2 class="quiet">{{ group.name }}, {{ group.findings.length }}</h2>
        @for (finding of group.findings; track finding.rule + finding.blockId + finding.at + finding.subject) {
          <div class="item" [class.current]="finding === walk.current()" data-testid="open-finding">
            <button type="button" class="row" [title]="finding.name" (click)="walk.go(finding)">
              <b>{{ finding.subject }}</b>
              <span class="says">
                <span class="visually-hidden">{{ finding.severity }}:</span>
                {{ said(finding.message) }}
              </span>
              <span class="quiet words">{{ finding.words }}</span>
              <span class="quiet pass">{{ nameOf(finding.pass) }}</span>
            </button>
            @if (finding === walk.current()) {
              <span class="actions">
                @if (finding.proposal) {
                  <button i18n="@@openList.apply" type="button" class="btn btn-link btn-sm" (click)="walk.take(finding)">Apply</button>
                }
                @if (finding.blockId) {
                  <button i18n="@@openList.ignore" type="button" class="btn btn-link btn-sm" (click)="store.intend(finding, true)">Ignore</button>
                }
                <button i18n="@@openList.goToPass" type="button" class="btn btn-link btn-sm" (click)="store.showPass(finding.pass)">Go to pass</button>
              </span>
            }
          </div>
        }
      } @empty {
        <p class="quiet">{{ state.open() ? 'No findings here.' : 'Measuring the whole job …' }}</p>
      }
    </div>
  `,
  styles: `
    :host {
      --columns: 190px minmax(0, 1fr);
    }
    .verdict {
      font-weight: 600;
      margin-bottom: 8px;
    }
    label {
      display: block;
      margin-bottom: 6px;
      font-size: 12px;
    }
    .list {
      overflow-y: auto;
      padding: 6px 14px;
    }
    h2 {
      margin: 6px 0 2px;
      font-size: 12px;
      font-weight: 400;
    }
    .item {
      display: flex;
      align-items: baseline;
      border-bottom: 1px dotted var(--jx-rule);
    }
    .current {
      background: var(--jx-sheet);
      box-shadow: inset 3px 0 var(--jx-accent);
    }
    .row {
      display: grid;
      grid-template-columns: minmax(60px, 120px) minmax(0, 1fr) minmax(0, 200px) 64px;
      flex: 1;
      gap: 10px;
      min-width: 0;
      padding: 4px 8px;
      border: 0;
      background: transparent;
      color: inherit;
      text-align: left;
    }
    .row > * {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .actions {
      flex: none;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OpenList {
  protected readonly store = inject(BenchStore);
  protected readonly state = inject(Comparison);
  protected readonly walk = inject(OpenWalk);
  private readonly all = inject(PASSES);
  protected readonly severities = SEVERITIES;

  protected readonly verdict = computed(() => {
    const open = this.state.open()?.findings;
    if (!open) return 'Measuring …';
    if (open.length === 0) return 'No findings.';
    const severe = open.filter(({ severity }) => severity === 'severe').length;
    return `${counted(open.length, 'finding')}${severe > 0 ? `, ${severe} severe` : ''}`;
  });
  protected readonly passes = computed(() => {
    const open = this.state.open()?.findings ?? [];
    return this.all
      .map(({ id, name }) => ({ id, name, count: open.filter(({ pass }) => pass === id).length }))
      .filter(({ id, count }) => count > 0 || id === this.walk.pass());
  });
  protected readonly groups = computed(() => {
    const groups = new Map<string, JobFinding[]>();
    for (const finding of this.walk.findings()) {
      const name = finding.sheet || 'The job';
      groups.set(name, [...(groups.get(name) ?? []), finding]);
    }
    return [...groups].map(([name, findings]) => ({ name, findings }));
  });

  protected readonly said = inLanguage;
  protected readonly nameOf = (id: string): string => this.all.find((pass) => pass.id === id)?.name ?? id;
}
