import { Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { FakePreferences } from '../bench/testing';
import { Hint } from './hint';
import { UserPreferences } from './user-preferences';
import { press } from '../ui/testing';

@Component({ selector: 'jx-host', imports: [Hint], template: '<jx-hint name="one" says="Look here." /><jx-hint name="two" says="And there." />' })
class Host {}

describe('hints', () => {
  let preferences: FakePreferences;
  beforeEach(() => {
    preferences = new FakePreferences();
    TestBed.configureTestingModule({ providers: [{ provide: UserPreferences, useValue: preferences }] });
  });
  async function open() {
    const fixture = TestBed.createComponent(Host);
    await fixture.whenStable();
    const shown = (): string[] => [...(fixture.nativeElement as HTMLElement).querySelectorAll('.hint p')].map(({ textContent }) => textContent.trim());
    return { fixture, shown };
  }

  it('are shown until they are put away, each once and for good', async () => {
    const { fixture, shown } = await open();
    expect(shown()).toEqual(['Look here.', 'And there.']);
    await press(fixture, 'Got it', fixture.nativeElement as HTMLElement);
    expect(shown()).toEqual(['And there.']);
    expect(preferences.current.hintsSeen).toEqual(['one']);
    expect((await open()).shown()).toEqual(['And there.']);
  });

  it('are all kept off by whoever wants none, and come again from the preferences', async () => {
    const { fixture, shown } = await open();
    await press(fixture, 'No more hints', fixture.nativeElement as HTMLElement);
    expect([shown(), preferences.current.hints]).toEqual([[], false]);
    await preferences.change({ hints: true, hintsSeen: [] });
    await fixture.whenStable();
    expect(shown().length).toBe(2);
  });

  it('wait until it is known what was put away before', async () => {
    preferences.read$.next(false);
    const { fixture, shown } = await open();
    expect(shown()).toEqual([]);
    preferences.read$.next(true);
    await fixture.whenStable();
    expect(shown().length).toBe(2);
  });
});
