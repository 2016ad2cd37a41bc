import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Finding } from '@jentrix/core/findings';
import { BenchStore } from '../bench.store';
import { showSigned } from '../../ui/numbers';
import { SheetFindings } from '../state/sheet-findings';

/** The findings of one pass on this sheet, most visible first: go there, take the proposal, or say that it is as intended. */
@Component({
  selector: 'jx-findings-list',
  template: `
    @if (failed(); as message) {
      <p class="failed" role="alert">
        {{ message }}
        <button i18n="@@findingsList.tryAgain" type="button" class="btn btn-link btn-sm" (click)="measuring.again()">Try again</button>
      </p>
    }
    @if (kinds().length > 0) {
      <div class="kinds">
        @for (kind of kinds(); track kind.rule) {
          <button i18n="@@findingsList.applyAll" type="button" class="btn btn-link btn-sm" [title]="kind.name" (click)="store.acceptAll(kind.rule)">
            Apply all {{ kind.count }}: {{ kind.says }}
          </button>
        }
      </div>
    }
    @for (finding of findings(); track finding.rule + finding.blockId + finding.at) {
      <div class="item" [class.current]="isCurrent(finding)" [attr.data-rule]="finding.rule">
        <button type="button" class="row" [title]="finding.name" (click)="store.goTo(finding)">
          <b>{{ finding.subject }}</b>
          <span class="says" [attr.data-severity]="finding.severity">
            <span class="visually-hidden">{{ finding.severity }}:</span>
            {{ finding.message }}
          </span>
          @if (finding.changeMilliem !== undefined) {
            <span class="change" [class.close]="finding.changeMilliem < 0">{{ signed(finding.changeMilliem) }}</span>
          }
        </button>
        @if (isCurrent(finding)) {
          <div class="actions">
            @if (finding.proposal) {
              <button type="button" class="btn btn-link btn-sm" (click)="store.accept(finding)">
                Apply
                <kbd>↵</kbd>
              </button>
            }
            <button type="button" class="btn btn-link btn-sm" (click)="store.intend(finding, true)">
              Ignore
              <kbd>I</kbd>
            </button>
          </div>
        }
      </div>
    } @empty {
      <p i18n="@@findingsList.noFindingsOnThisSheet" class="quiet" [hidden]="aside() || failed()">No findings on this sheet.</p>
    }
    @if (intended().length > 0) {
      <button i18n="@@findingsList.ignored" type="button" class="btn btn-link btn-sm silenced" [attr.aria-expanded]="open()" (click)="open.set(!open())">
        Ignored: {{ intended().length }} {{ open() ? '▾' : '▸' }}
      </button>
      @if (open()) {
        @for (finding of intended(); track finding.rule + finding.blockId + finding.at) {
          <div class="item quiet">
            <button type="button" class="row" (click)="store.goTo(finding)">
              <b>{{ finding.subject }}</b>
              <span class="says">{{ finding.message }}</span>
            </button>
            <button i18n="@@findingsList.showAgain" type="button" class="btn btn-link btn-sm" (click)="store.intend(finding, false)">Show again</button>
          </div>
        }
      }
    }
  `,
  styleUrl: './findings-list.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FindingsList {
  readonly pass = input.required<string>();
  /** True where the list stands among other things, and says nothing when it has nothing. */
  readonly aside = input(false);
  protected readonly store = inject(BenchStore);
  private readonly found = this.store.current.findings;
  private readonly view = this.store.current.view;
  protected readonly measuring = inject(SheetFindings);
  protected readonly failed = computed(() => this.found().failed);
  protected readonly open = signal(false);
  protected readonly signed = showSigned;

  protected readonly findings = computed(() => this.found().findings.filter(({ pass }) => pass === this.pass()));
  protected readonly intended = computed(() => this.found().intended.filter(({ pass }) => pass === this.pass()));
  /** The kinds that are there more than once and can be taken together. */
  protected readonly kinds = computed(() =>
    [...new Set(this.findings().map(({ rule }) => rule))].flatMap((rule) => {
      const own = this.findings().filter((finding) => finding.rule === rule && finding.proposal);
      const [first] = own;
      if (!first || own.length < 2) return [];
      const says = new Set(own.map(({ message }) => message)).size === 1 ? first.message : first.name.toLowerCase();
      return [{ rule, name: first.name, count: own.length, says }];
    }),
  );

  protected isCurrent({ blockId, at }: Finding): boolean {
    const { gap, blockId: current } = this.view();
    return at > 0 ? gap !== undefined && gap.blockId === blockId && gap.at === at : !gap && current === blockId;
  }
}

/** The effect of applying a proposal. */
