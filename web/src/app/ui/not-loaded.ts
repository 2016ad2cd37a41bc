import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ToastService } from './toasts';

/** Stands where a deferred part of a page could not be loaded: says so, and how to have it. Draws nothing, so that it may stand within an SVG too. */
@Component({
  selector: '[jxNotLoaded]',
  template: '',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NotLoaded {
  constructor() {
    // A part that failed once is not asked for again by this page; what was done is in the browser with every key.
    inject(ToastService).offer('Part of this page is missing: the server can’t be reached. Reload the page when it is back.', {
      label: 'Reload',
      run: () => {
        location.reload();
      },
    });
  }
}
