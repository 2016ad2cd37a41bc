import { ChangeDetectionStrategy, Component, Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { WordedError } from '@jentrix/core/base';
import { NgbToast } from '@ng-bootstrap/ng-bootstrap/toast';
import { BehaviorSubject } from 'rxjs';

/** A passing message, with at most one thing to do about it. */
export interface Toast {
  id: number;
  message: string;
  error: boolean;
  action: { label: string; run: () => void } | undefined;
  /** Stays until it is answered. */
  stays: boolean;
}

/** The message of an error for people; `otherwise` where it is not worded for them (it is then left in the console). */
export function messageOf(error: unknown, otherwise: string): string {
  if (error instanceof WordedError) return error.message;
  console.error(error);
  return otherwise;
}

/** Messages that pass: what happened, and the way back. */
@Injectable({ providedIn: 'root' })
export class ToastService {
  private readonly subject = new BehaviorSubject<readonly Toast[]>([]);
  private nextId = 1;
  readonly toasts$ = this.subject.asObservable();
  readonly toasts = toSignal(this.toasts$, { requireSync: true });

  say(message: string, action?: Toast['action']): void {
    this.add({ message, error: false, action, stays: false });
  }

  /** Something to do or to leave; it waits for an answer, and is not offered twice. */
  offer(message: string, action: NonNullable<Toast['action']>): void {
    if (!this.subject.value.some((toast) => toast.message === message)) this.add({ message, error: false, action, stays: true });
  }

  fail(message: string): void {
    this.add({ message, error: true, action: undefined, stays: true });
  }

  /**
   * Does a task and tells of it when it fails: by the error's own words where it has words for people, else by `otherwise`.
   * @returns whether it was done.
   */
  async trying(task: () => Promise<unknown>, otherwise = 'That failed. Nothing was changed.'): Promise<boolean> {
    try {
      await task();
      return true;
    } catch (error) {
      this.fail(messageOf(error, otherwise));
      return false;
    }
  }

  dismiss(id: number): void {
    this.subject.next(this.subject.value.filter((toast) => toast.id !== id));
  }

  private add(toast: Omit<Toast, 'id'>): void {
    this.subject.next([...this.subject.value, { ...toast, id: this.nextId++ }].slice(-4));
  }
}

@Component({
  selector: 'jx-toasts',
  // There before any message is, so that messages are read out.
  host: { 'aria-live': 'polite' },
  imports: [NgbToast],
  template: `
    @for (toast of toasts(); track toast.id) {
      <ngb-toast
        [autohide]="!toast.stays"
        [delay]="7000"
        (hidden)="service.dismiss(toast.id)"
        [class.error]="toast.error"
        [attr.role]="toast.error ? 'alert' : 'status'"
      >
        <div class="said">
          <span>{{ toast.message }}</span>
          @if (toast.action; as action) {
            <button type="button" class="btn btn-link btn-sm" (click)="action.run(); service.dismiss(toast.id)">{{ action.label }}</button>
          }
          <button
            i18n-aria-label="@@toasts.dismiss"
            type="button"
            class="btn-close btn-close-white"
            aria-label="Dismiss"
            (click)="service.dismiss(toast.id)"
          ></button>
        </div>
      </ngb-toast>
    }
  `,
  styles: `
    :host {
      position: fixed;
      left: 50%;
      bottom: 16px;
      transform: translateX(-50%);
      z-index: 1200;
      display: grid;
      gap: 6px;
    }
    ngb-toast {
      background: var(--jx-ink);
      color: var(--jx-ground);
      border: 0;
      width: auto;
      max-width: 640px;
    }
    .error {
      background: var(--jx-tight);
    }
    .said {
      display: flex;
      align-items: center;
      gap: 12px;
    }
    .btn-link {
      color: inherit;
      padding: 0;
      font-weight: 600;
      white-space: nowrap;
    }
    .btn-close {
      font-size: 10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Toasts {
  protected readonly service = inject(ToastService);
  protected readonly toasts = this.service.toasts;
}
