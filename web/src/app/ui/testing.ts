/** How specs handle a page as a person would: by the names of what is on it. */
import type { EnvironmentProviders, Provider, Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { BehaviorSubject } from 'rxjs';
import { NgbConfig } from '@ng-bootstrap/ng-bootstrap/config';
import { FaceFonts } from './face-text.directive';

/** A page without routes, with faces that are no files and dialogs that come and go at once. */
export const pageProviders: (EnvironmentProviders | Provider)[] = [
  provideRouter([]),
  { provide: FaceFonts, useValue: { load: () => Promise.resolve('serif') } },
  { provide: NgbConfig, useValue: { animation: false } },
];

/** The signal of a state that a fake holds. */
export const signalOf = <T>(state: BehaviorSubject<T>): Signal<T> => toSignal(state, { requireSync: true, manualCleanup: true });

/** The button, link or field whose words, or else whose accessible name or id, are these. Looks through dialogs as well. */
export function named(name: string, within: ParentNode = document): HTMLElement {
  const all = [...within.querySelectorAll<HTMLElement>('button, a, [role=tab], input, select')];
  const found = all.find((one) => one.textContent.trim() === name) ?? all.find((one) => nameOf(one) === name || one.id === name);
  if (!found) throw new Error(`There is no “${name}” among ${all.map((one) => one.textContent.trim() || nameOf(one)).join(', ')}`);
  return found;
}

/** Its name: by itself, or by its label. */
const nameOf = (one: HTMLElement): string | undefined =>
  one.getAttribute('aria-label') ?? (one instanceof HTMLInputElement ? one.labels?.[0]?.textContent.trim() : undefined);

export async function press(fixture: ComponentFixture<unknown>, name: string, within?: ParentNode): Promise<void> {
  named(name, within).click();
  await fixture.whenStable();
}

/** Types into a field and leaves it. */
export async function enter(fixture: ComponentFixture<unknown>, name: string, text: string, within?: ParentNode): Promise<HTMLInputElement> {
  const field = named(name, within) as HTMLInputElement;
  field.value = text;
  field.dispatchEvent(new Event('input'));
  field.dispatchEvent(new Event('change'));
  field.dispatchEvent(new Event('blur'));
  await fixture.whenStable();
  return field;
}

/** Offers a file to a file field. */
export async function offer(fixture: ComponentFixture<unknown>, field: HTMLInputElement, name: string, content: string): Promise<void> {
  const files = new DataTransfer();
  files.items.add(new File([content], name));
  field.files = files.files;
  field.dispatchEvent(new Event('change'));
  await until(() => field.value === '');
  await fixture.whenStable();
}

/** Waits for something to become true; gives up after twenty seconds: machines have slow ones. */
export async function until(happened: () => boolean): Promise<void> {
  for (let i = 0; i < 1000 && !happened(); i++) await new Promise((go) => setTimeout(go, 20));
  if (!happened()) throw new Error(`It never happened: ${String(happened)}`);
}
