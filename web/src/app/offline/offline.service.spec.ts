import { TestBed } from '@angular/core/testing';
import { SwUpdate, type VersionEvent } from '@angular/service-worker';
import { Subject } from 'rxjs';
import { ApiService } from '../api/api.service';
import { until } from '../ui/testing';
import { type Toast, ToastService } from '../ui/toasts';
import { OfflineService } from './offline.service';

describe('Jentrix without its server', () => {
  let answers: () => Promise<Response>;
  let asked: string[];
  let toasts: readonly Toast[];
  const versions = new Subject<VersionEvent>();
  const lost = new Subject<{ type: 'UNRECOVERABLE_STATE'; reason: string }>();
  beforeEach(() => {
    asked = [];
    answers = () => Promise.resolve(new Response('{}'));
    spyOn(window, 'fetch').and.callFake((address) => {
      asked.push(address instanceof Request ? address.url : String(address));
      return answers();
    });
    const updates = { isEnabled: true, versionUpdates: versions, unrecoverable: lost, checkForUpdate: () => Promise.resolve(false) };
    TestBed.configureTestingModule({
      providers: [
        { provide: ApiService, useValue: {} },
        { provide: SwUpdate, useValue: updates },
      ],
    });
    TestBed.inject(ToastService).toasts$.subscribe((all) => (toasts = all));
  });

  it('tells when the server is away and when it is back, by asking it past the cache', async () => {
    const service = TestBed.inject(OfflineService);
    const told: string[] = [];
    service.away$.subscribe((away) => told.push(String(away)));
    service.back$.subscribe(() => told.push('back'));
    answers = () => Promise.reject(new TypeError('Failed to fetch'));
    service.start();
    await until(() => told.length === 2);
    answers = () => Promise.resolve(new Response('', { status: 504 }));
    dispatchEvent(new Event('online'));
    await until(() => asked.length >= 2);
    answers = () => Promise.resolve(new Response('{}'));
    dispatchEvent(new Event('online'));
    await until(() => told.length === 4);
    expect(told).toEqual(['false', 'true', 'false', 'back']);
    expect(new Set(asked)).toEqual(new Set(['/api/preferences?ngsw-bypass=true']));
  });

  it('asks before a newer one takes over, once, and waits for the answer', () => {
    TestBed.inject(OfflineService).start();
    const version = { hash: 'a' };
    versions.next({ type: 'VERSION_DETECTED', version });
    expect(toasts.length).toBe(0);
    versions.next({ type: 'VERSION_READY', currentVersion: version, latestVersion: { hash: 'b' } });
    versions.next({ type: 'VERSION_READY', currentVersion: version, latestVersion: { hash: 'c' } });
    expect(toasts.map(({ stays, action }) => [stays, action?.label])).toEqual([[true, 'Update now']]);
    expect(toasts[0]?.message).toContain('kept');
  });
});
