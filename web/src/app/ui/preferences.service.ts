import { Injectable, inject } from '@angular/core';
import { DEFAULT_PREFERENCES, type Preferences } from '@jentrix/core/preferences';
import { BehaviorSubject, firstValueFrom, fromEvent, merge } from 'rxjs';
import { ApiService } from '../api/api.service';
import { numberLanguage } from './numbers';

/** The person's preferences: the defaults until the server has answered. */
@Injectable({ providedIn: 'root' })
export class PreferencesService {
  private readonly api = inject(ApiService);
  private readonly subject = new BehaviorSubject<Preferences>(DEFAULT_PREFERENCES);
  readonly preferences$ = this.subject.asObservable();

  constructor() {
    const dark = matchMedia('(prefers-color-scheme: dark)');
    merge(this.preferences$, fromEvent(dark, 'change')).subscribe(() => {
      const { theme, numbers } = this.current;
      document.documentElement.dataset['theme'] = theme === 'system' ? (dark.matches ? 'dark' : 'light') : theme;
      numberLanguage.set(numbers);
    });
    this.api.readPreferences().subscribe({ next: (preferences) => this.subject.next(preferences), error: () => undefined });
  }

  get current(): Preferences {
    return this.subject.value;
  }

  /** Takes effect at once. @throws ApiError when the server could not keep them; they then hold for this visit only. */
  async change(change: Partial<Preferences>): Promise<void> {
    const next = { ...this.current, ...change };
    this.subject.next(next);
    await firstValueFrom(this.api.writePreferences(next));
  }
}
