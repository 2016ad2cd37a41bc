import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { type ValueChange, ValueField } from './value-field';

describe('value field', () => {
  let fixture: ComponentFixture<ValueField>;
  let input: HTMLInputElement;
  let changes: ValueChange[];

  beforeEach(async () => {
    fixture = TestBed.createComponent(ValueField);
    fixture.componentRef.setInput('label', 'leading');
    fixture.componentRef.setInput('value', 60);
    fixture.componentRef.setInput('fine', 0.5);
    fixture.componentRef.setInput('coarse', 4);
    fixture.componentRef.setInput('min', 0);
    fixture.componentRef.setInput('max', 100);
    changes = [];
    fixture.componentInstance.changed.subscribe((change) => {
      changes.push(change);
      fixture.componentRef.setInput('value', change.value);
    });
    await fixture.whenStable();
    input = (fixture.nativeElement as HTMLElement).querySelector('input') as HTMLInputElement;
  });

  const type = async (text: string): Promise<void> => {
    input.value = text;
    input.dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  const key = async (name: string, init: KeyboardEventInit = {}): Promise<void> => {
    input.dispatchEvent(new KeyboardEvent('keydown', { key: name, cancelable: true, bubbles: true, ...init }));
    await fixture.whenStable();
  };
  const values = (): number[] => changes.map(({ value }) => value);

  it('has the keys from the first character on, before anything is drawn', async () => {
    expect(input.hasAttribute('data-live')).toBeTrue();
    input.value = '7';
    input.dispatchEvent(new Event('input'));
    expect(input.hasAttribute('data-live')).toBeFalse();
    await key('Escape');
    expect(input.hasAttribute('data-live')).toBeTrue();
  });

  it('takes a typed value in another unit', async () => {
    await type('1in');
    await key('Enter');
    expect(values()).toEqual([72]);
    expect(input.value).toBe('72');
  });

  it('keeps what can’t be understood or is out of range, says why, and changes nothing', async () => {
    for (const text of ['wide', '400']) {
      await type(text);
      await key('Enter');
      expect(input.getAttribute('aria-invalid')).toBe('true');
      expect((fixture.nativeElement as HTMLElement).querySelector('[role="alert"]')?.textContent.length).toBeGreaterThan(5);
    }
    await key('Escape');
    expect(input.value).toBe('60');
    expect(changes).toEqual([]);
  });

  it('steps finely and coarsely inside its range', async () => {
    await key('ArrowUp');
    await key('ArrowDown', { shiftKey: true });
    expect(values()).toEqual([60.5, 56.5]);
    for (let i = 0; i < 20; i++) await key('ArrowDown', { shiftKey: true });
    expect(values().at(-1)).toBe(0);
  });

  it('makes one gesture of a held key, and another of the next', async () => {
    await key('ArrowUp');
    await key('ArrowUp', { repeat: true });
    await key('ArrowUp');
    const [first, held, second] = changes.map(({ gesture }) => gesture);
    expect(held).toBe(first);
    expect(second).not.toBe(first);
  });

  it('is scrubbed by its label as one gesture', async () => {
    const label = (fixture.nativeElement as HTMLElement).querySelector('label') as HTMLLabelElement;
    label.setPointerCapture = () => undefined;
    label.releasePointerCapture = () => undefined;
    const pointer = (name: string, clientX: number) =>
      label.dispatchEvent(new PointerEvent(name, { clientX, button: 0, pointerId: 1, bubbles: true, cancelable: true }));
    pointer('pointerdown', 100);
    pointer('pointermove', 106);
    pointer('pointermove', 112);
    pointer('pointerup', 112);
    await fixture.whenStable();
    expect(values()).toEqual([61, 62]);
    expect(new Set(changes.map(({ gesture }) => gesture)).size).toBe(1);
  });

  it('takes characters that were typed elsewhere', async () => {
    document.body.append(fixture.nativeElement as HTMLElement);
    fixture.componentInstance.focus('4');
    fixture.componentInstance.focus('2');
    await key('Enter');
    expect(values()).toEqual([42]);
  });
});
