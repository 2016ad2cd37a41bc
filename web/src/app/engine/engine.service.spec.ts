import { TestBed } from '@angular/core/testing';
import { ApiService } from '../api/api.service';
import { FakePreferences } from '../bench/testing';
import { UserPreferences } from '../settings/user-preferences';
import { EngineService } from './engine.service';

describe('engine service', () => {
  const request = { blocks: [], focus: undefined } as never;
  const reply = { settings: [], inks: [], instances: [] };
  const failing = (name: string) => ({ set: () => Promise.reject(Object.assign(new Error('memory access out of bounds'), { name })) }) as never;
  const sound = { set: () => Promise.resolve(reply) } as never;
  let service: EngineService;
  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [
        { provide: ApiService, useValue: {} },
        { provide: UserPreferences, useValue: new FakePreferences() },
      ],
    });
    service = TestBed.inject(EngineService);
  });

  it('throws a shaper away that broke, and asks a new one', async () => {
    for (const name of ['RuntimeError', 'ShaperError']) {
      const engine = jasmine.createSpy('engine').and.returnValues(Promise.resolve(failing(name)), Promise.resolve(sound));
      service.engine = engine;
      expect(await service.set(request)).toEqual(reply as never);
      expect(engine).toHaveBeenCalledTimes(2);
    }
  });

  it('passes on what is no fault of the shaper, and what a new one can’t do either', async () => {
    service.engine = () => Promise.resolve(failing('TypeError'));
    await expectAsync(service.set(request)).toBeRejectedWithError('memory access out of bounds');
    const engine = jasmine.createSpy('engine').and.resolveTo(failing('RuntimeError'));
    service.engine = engine;
    await expectAsync(service.set(request)).toBeRejected();
    expect(engine).toHaveBeenCalledTimes(2);
  });
});
