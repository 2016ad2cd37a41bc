import { ChangeDetectionStrategy, Component, inject, Injector } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { OfflineService } from './offline/offline.service';
import { UserPreferences } from './settings/user-preferences';
import { Toasts } from './ui/toasts';

@Component({
  selector: 'jx-root',
  imports: [RouterOutlet, Toasts],
  template: '<router-outlet /><jx-toasts />',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Root {
  /** Asked for here, so that the theme holds on every page. */
  protected readonly preferences = inject(UserPreferences);

  constructor() {
    // Edits of an earlier visit are sent from whichever page is opened.
    const injector = inject(Injector);
    // What earlier visits have left is sent once there is nothing else to do.
    requestIdleCallback(
      () =>
        void import('./offline/unsent.service').then(
          ({ UnsentService }) => injector.get(UnsentService).look(),
          () => undefined,
        ),
      { timeout: 2000 },
    );
    inject(OfflineService).start();
    // Help leads back to where it was opened (`web/help.js`).
    document.addEventListener('click', ({ target }) => {
      if (!(target instanceof Element) || !target.closest('a[href^="/help/"]')) return;
      localStorage.setItem('jentrix.place', JSON.stringify({ path: location.pathname + location.search, title: document.title.replace(/ · Jentrix$/, '') }));
    });
  }
}
