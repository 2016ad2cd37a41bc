import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { JobFormatError } from '@jentrix/core/job';
import { firstValueFrom } from 'rxjs';
import { press } from './testing';
import { ToastService, Toasts, messageOf } from './toasts';

describe('toasts', () => {
  let service: ToastService;
  let fixture: ComponentFixture<Toasts>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const messages = async (): Promise<string[]> => (await firstValueFrom(service.toasts$)).map(({ message }) => message);

  beforeEach(async () => {
    fixture = TestBed.createComponent(Toasts);
    service = TestBed.inject(ToastService);
    await fixture.whenStable();
  });

  it('say what happened and offer the way back, once', async () => {
    let undone = 0;
    service.say('Deleted the sheet.', { label: 'Undo', run: () => undone++ });
    await fixture.whenStable();
    expect(host().querySelector('ngb-toast')?.getAttribute('role')).toBe('status');
    await press(fixture, 'Undo', host());
    expect(undone).toBe(1);
    expect(await messages()).toEqual([]);
  });

  it('call out for errors, which stay until they are dismissed', async () => {
    service.fail('The server can’t be reached.');
    await fixture.whenStable();
    expect(host().querySelector('ngb-toast')?.getAttribute('role')).toBe('alert');
    await press(fixture, 'Dismiss', host());
    expect(await messages()).toEqual([]);
  });

  it('keep the last four', async () => {
    for (const n of [1, 2, 3, 4, 5, 6]) service.say(`${n}`);
    expect(await messages()).toEqual(['3', '4', '5', '6']);
  });

  it('tell of a task that fails in its own words where it has words for people', async () => {
    spyOn(console, 'error');
    expect(await service.trying(() => Promise.resolve())).toBeTrue();
    expect(await service.trying(() => Promise.reject(new JobFormatError('This is not a Jentrix job.')))).toBeFalse();
    expect(await service.trying(() => Promise.reject(new TypeError('x is undefined')), 'The picture could not be sent.')).toBeFalse();
    expect(await messages()).toEqual(['This is not a Jentrix job.', 'The picture could not be sent.']);
    // What is not worded for people is left for developers.
    expect(console.error).toHaveBeenCalledOnceWith(jasmine.any(TypeError));
    expect(messageOf('odd', 'Otherwise')).toBe('Otherwise');
  });
});
