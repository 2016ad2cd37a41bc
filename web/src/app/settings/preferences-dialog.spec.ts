import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { FakePreferences } from '../bench/testing';
import { PreferencesDialog } from './preferences-dialog';
import { UserPreferences } from './user-preferences';

describe('preferences dialog', () => {
  let preferences: FakePreferences;
  let fixture: ComponentFixture<PreferencesDialog>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  /** The field that a label names. */
  const field = (label: string): HTMLInputElement =>
    [...host().querySelectorAll('jx-value')]
      .find((value) => value.querySelector('label')?.textContent.trim() === label)
      ?.querySelector('input') as HTMLInputElement;
  async function type(label: string, text: string): Promise<void> {
    const input = field(label);
    input.value = text;
    input.dispatchEvent(new Event('input'));
    input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    await fixture.whenStable();
  }

  beforeEach(async () => {
    preferences = new FakePreferences();
    TestBed.configureTestingModule({ providers: [NgbActiveModal, { provide: UserPreferences, useValue: preferences }] });
    fixture = TestBed.createComponent(PreferencesDialog);
    await fixture.whenStable();
  });

  it('takes effect with every change', async () => {
    await type('Fine step (arrow keys)', '0,5');
    await type('Too tight below', '-80');
    expect([preferences.current.fineMilliem, preferences.current.outMilliem]).toEqual([0.5, -80]);
    const dark = [...host().querySelectorAll('button')].find((button) => button.textContent.trim() === 'Dark') as HTMLButtonElement;
    dark.click();
    await fixture.whenStable();
    expect([preferences.current.theme, dark.getAttribute('aria-pressed')]).toEqual(['dark', 'true']);
  });

  it('shows the factor of automatic leading in percent', async () => {
    const label = '× size, for the next “auto”';
    expect(field(label).value).toBe('120');
    await type(label, '110%');
    expect(preferences.current.autoLeadingFactor).toBe(1.1);
    await type(label, '20');
    expect(preferences.current.autoLeadingFactor).toBe(1.1);
    expect(field(label).getAttribute('aria-invalid')).toBe('true');
  });

  it('takes plain numbers only', async () => {
    await type('Coarse step (with ⇧)', '3 mm');
    expect(preferences.current.coarseMilliem).toBe(10);
    expect(field('Coarse step (with ⇧)').getAttribute('aria-invalid')).toBe('true');
  });

  it('names each language by itself, with a number as it writes it', async () => {
    const select = host().querySelector('select') as HTMLSelectElement;
    expect([...select.options].map(({ text }) => text)).toEqual(jasmine.arrayContaining(['English · 0.5', 'Deutsch · 0,5', 'français · 0,5']));
    select.value = 'de';
    select.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(preferences.current.numbers).toBe('de');
  });
});
