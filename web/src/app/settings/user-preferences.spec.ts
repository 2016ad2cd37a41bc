import { TestBed } from '@angular/core/testing';
import { DEFAULT_PREFERENCES, type Preferences } from '@jentrix/core/preferences';
import { Subject, of } from 'rxjs';
import { ApiService } from '../api/api.service';
import { UserPreferences } from './user-preferences';

describe('preferences', () => {
  const REMEMBERED = 'jentrix.theme';
  let answer: Subject<Preferences>;
  const begin = (): UserPreferences => {
    answer = new Subject();
    const api = { readPreferences: () => answer, writePreferences: (preferences: Preferences) => of(preferences) };
    TestBed.configureTestingModule({ providers: [{ provide: ApiService, useValue: api }] });
    return TestBed.inject(UserPreferences);
  };
  const shown = (): string | undefined => document.documentElement.dataset['theme'];

  afterEach(() => {
    localStorage.removeItem(REMEMBERED);
    document.documentElement.dataset['theme'] = 'light';
  });

  it('shows the look of the last visit until the server has told which is chosen', () => {
    localStorage.setItem(REMEMBERED, 'dark');
    const preferences = begin();
    expect([shown(), preferences.current.theme]).toEqual(['dark', 'light']);
    answer.next({ ...DEFAULT_PREFERENCES, theme: 'light' });
    expect([shown(), localStorage.getItem(REMEMBERED)]).toEqual(['light', 'light']);
  });

  it('takes what is chosen before the server has answered', async () => {
    await begin().change({ theme: 'dark' });
    expect([shown(), localStorage.getItem(REMEMBERED)]).toEqual(['dark', 'dark']);
  });
});
