import { TestBed } from '@angular/core/testing';
import { ColourField } from './colour-field';
import { Switched } from './switched';

describe('colour field', () => {
  it('tells what is being chosen and when it is chosen, and offers the sheet only where that is wanted', async () => {
    const fixture = TestBed.createComponent(ColourField);
    fixture.componentRef.setInput('label', 'Fill colour');
    fixture.componentRef.setInput('value', '#112233');
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const field = host.querySelector('input') as HTMLInputElement;
    const said: string[] = [];
    fixture.componentInstance.changed.subscribe((colour) => said.push(colour));
    fixture.componentInstance.settled.subscribe(() => said.push('settled'));
    fixture.componentInstance.pick.subscribe(() => said.push('pick'));
    expect([field.value, field.getAttribute('aria-label'), host.querySelector('button')]).toEqual(['#112233', 'Fill colour', null]);
    field.value = '#445566';
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new Event('change'));
    fixture.componentRef.setInput('pickable', true);
    fixture.componentRef.setInput('picking', true);
    await fixture.whenStable();
    const button = host.querySelector('button') as HTMLButtonElement;
    expect(button.getAttribute('aria-pressed')).toBe('true');
    expect(button.getAttribute('aria-label')).toContain('Fill colour');
    button.click();
    expect(said).toEqual(['#445566', 'settled', 'pick']);
  });

  it('switches an effect by the box and its name alike', async () => {
    const fixture = TestBed.createComponent(Switched);
    fixture.componentRef.setInput('label', 'Shadow');
    fixture.componentRef.setInput('on', false);
    await fixture.whenStable();
    const states: boolean[] = [];
    fixture.componentInstance.switched.subscribe((on) => {
      states.push(on);
      fixture.componentRef.setInput('on', on);
    });
    const label = (fixture.nativeElement as HTMLElement).querySelector('label') as HTMLLabelElement;
    label.click();
    await fixture.whenStable();
    label.click();
    expect(states).toEqual([true, false]);
  });
});
