import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { UnsentService } from './bench/unsent.service';
import { OfflineService } from './offline/offline.service';
import { PreferencesService } from './ui/preferences.service';
import { Toasts } from './ui/toasts';

@Component({
  selector: 'jx-root',
  imports: [RouterOutlet, Toasts],
  template: '<router-outlet /><jx-toasts />',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Root {
  /** Asked for here, so that the theme holds on every page. */
  protected readonly preferences = inject(PreferencesService);

  constructor() {
    // Edits of an earlier visit are sent from whichever page is opened.
    void inject(UnsentService).look();
    inject(OfflineService).start();
  }
}
