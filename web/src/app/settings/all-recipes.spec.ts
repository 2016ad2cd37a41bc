import { TestBed } from '@angular/core/testing';
import type { Followers } from '@jentrix/core/api';
import { DEFAULT_STYLE, plainSettings, type Recipe } from '@jentrix/core/job';
import { of } from 'rxjs';
import { ApiService } from '../api/api.service';
import { AllRecipes } from './all-recipes';
import { named, pageProviders, until } from '../ui/testing';

const recipe: Recipe = {
  id: 'r',
  name: 'Headline',
  settings: plainSettings(DEFAULT_STYLE, { kind: 'pt', pt: 44 }),
};

describe('a change of a recipe', () => {
  let followers: Followers['jobs'];
  let service: AllRecipes;
  const dialog = (): HTMLElement | null => document.querySelector('ngb-modal-window');
  const told = (): string[] => [...(dialog()?.querySelectorAll('p') ?? [])].map((line) => line.textContent);

  beforeEach(() => {
    followers = [];
    const api = { listRecipes: () => of([recipe]), followersOfRecipe: () => of({ jobs: followers }) };
    TestBed.configureTestingModule({ providers: [...pageProviders, { provide: ApiService, useValue: api }] });
    service = TestBed.inject(AllRecipes);
  });

  it('needs no asking where nothing follows and nothing is told', async () => {
    expect(await service.mayChange(recipe)).toBeTrue();
    expect(dialog()).toBeNull();
  });

  it('tells what changes even before the server knows of a follower', async () => {
    const answer = service.mayChange(recipe, ['Changes: size.']);
    await until(() => told().length > 0);
    expect(told()).toEqual(['Changes: size.']);
    named('Cancel', dialog() ?? undefined).click();
    expect(await answer).toBeFalse();
  });

  it('tells which jobs it reaches after what changes', async () => {
    followers = [{ id: 'j', title: 'Perseids poster', blocks: 2 }];
    const answer = service.mayChange(recipe, ['Changes: size.']);
    await until(() => told().length > 0);
    expect(told()).toEqual(['Changes: size.', jasmine.stringContaining('“Perseids poster”')]);
    named('Update recipe', dialog() ?? undefined).click();
    expect(await answer).toBeTrue();
  });
});
