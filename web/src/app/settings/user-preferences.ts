import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { DEFAULT_PREFERENCES, type Preferences } from '@jentrix/core/preferences';
import { BehaviorSubject, firstValueFrom, fromEvent, merge } from 'rxjs';
import { ApiService } from '../api/api.service';
import { numberLanguage } from '../ui/numbers';

/** The look as it was shown last: for pages that ask no server, and until it has answered. */
const SHOWN = 'jentrix.theme';

/** The person's preferences: the defaults until the server has answered. */
@Injectable({ providedIn: 'root' })
export class UserPreferences {
  private readonly api = inject(ApiService);
  private readonly subject = new BehaviorSubject<Preferences>(DEFAULT_PREFERENCES);
  readonly preferences$ = this.subject.asObservable();
  readonly preferences = toSignal(this.preferences$, { requireSync: true });
  /** Whether the server has answered: until then nobody knows what was chosen before. */
  readonly read$ = new BehaviorSubject(false);
  readonly read = toSignal(this.read$, { requireSync: true });
  /** Whether anybody has chosen yet, before or now. */
  private chosen = false;

  constructor() {
    const dark = matchMedia('(prefers-color-scheme: dark)');
    merge(this.preferences$, fromEvent(dark, 'change')).subscribe(() => {
      const { theme, numbers } = this.current;
      const shown = theme === 'system' ? (dark.matches ? 'dark' : 'light') : theme;
      document.documentElement.dataset['theme'] = this.chosen ? remember(shown) : (rememberedPreferences() ?? shown);
      numberLanguage.set(numbers);
    });
    this.api.readPreferences().subscribe({
      next: (preferences) => {
        this.chosen = true;
        this.subject.next(preferences);
        this.read$.next(true);
      },
      error: () => undefined,
    });
  }

  get current(): Preferences {
    return this.subject.value;
  }

  /** Takes effect at once. @throws ApiError when the server could not keep them; they then hold for this visit only. */
  async change(change: Partial<Preferences>): Promise<void> {
    const next = { ...this.current, ...change };
    this.chosen = true;
    this.subject.next(next);
    await firstValueFrom(this.api.writePreferences(next));
    // What is kept for when the server is away is as new.
    if ('serviceWorker' in navigator && navigator.serviceWorker.controller) this.api.readPreferences().subscribe({ error: () => undefined });
  }
}

function remember(theme: string): string {
  try {
    localStorage.setItem(SHOWN, theme);
  } catch {
    // Not everywhere is anything kept.
  }
  return theme;
}

function rememberedPreferences(): string | null {
  try {
    return localStorage.getItem(SHOWN);
  } catch {
    return null;
  }
}
