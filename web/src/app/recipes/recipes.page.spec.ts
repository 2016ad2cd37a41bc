import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { Followers } from '@jentrix/core/api';
import { writeTokens } from '@jentrix/core/formats';
import { DEFAULT_STYLE, plainSettings, type Recipe, type RecipeSettings } from '@jentrix/core/job';
import { BehaviorSubject, type Observable, defer, of, throwError } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { FakePreferences } from '../bench/testing';
import { EngineService } from '../engine/engine.service';
import { UserPreferences } from '../settings/user-preferences';
import { enter, named, offer, pageProviders, press, until, signalOf } from '../ui/testing';
import { ToastService } from '../ui/toasts';
import { RecipesPage } from './recipes.page';

const FACES = [
  { id: 'plain', family: 'Quarry', style: 'Regular', weight: 400, italic: false },
  { id: 'bold', family: 'Quarry', style: 'Bold', weight: 700, italic: false },
];
const settings: RecipeSettings = plainSettings({ ...DEFAULT_STYLE, faceId: 'plain', sizePt: 40, trackingMilliem: 0 }, { kind: 'pt', pt: 44 });

/** Recipes in memory, which refuse a name twice. */
class FakeApi {
  recipes: Recipe[] = [{ id: 'r1', name: 'Headline', settings }];
  followers: Followers['jobs'] = [];
  readonly listRecipes = (): Observable<Recipe[]> => defer(() => of([...this.recipes]));
  readonly followersOfRecipe = (): Observable<Followers> => of({ jobs: this.followers });
  createRecipe(name: string, given: RecipeSettings): Observable<Recipe> {
    if (this.recipes.some((recipe) => recipe.name === name)) return throwError(() => new ApiError('refused', `There is a recipe “${name}” already.`));
    const recipe = { id: `r${this.recipes.length + 1}`, name, settings: given };
    this.recipes.push(recipe);
    return of(recipe);
  }
  changeRecipe(id: string, name: string, given: RecipeSettings): Observable<unknown> {
    this.recipes = this.recipes.map((recipe) => (recipe.id === id ? { id, name, settings: given } : recipe));
    return of(undefined);
  }
  removeRecipe(id: string): Observable<unknown> {
    this.recipes = this.recipes.filter((recipe) => recipe.id !== id);
    return of(undefined);
  }
}

describe('recipes page', () => {
  let api: FakeApi;
  let fixture: ComponentFixture<RecipesPage>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const names = (): string[] => [...host().querySelectorAll<HTMLInputElement>('.name')].map(({ value }) => value);
  let toasts: readonly string[];
  const dialog = (): HTMLElement | null => document.querySelector('ngb-modal-window');

  async function open(recipes?: Recipe[]): Promise<void> {
    if (recipes) api.recipes = recipes;
    fixture = TestBed.createComponent(RecipesPage);
    TestBed.inject(ToastService).toasts$.subscribe((all) => (toasts = all.map(({ message }) => message)));
    await fixture.whenStable();
  }

  beforeEach(() => {
    api = new FakeApi();
    const faces = new BehaviorSubject({ items: FACES, standInId: 'plain' });
    const engine = { faces$: faces, list: signalOf(faces), engine: () => Promise.resolve() };
    TestBed.configureTestingModule({
      providers: [
        pageProviders,
        { provide: ApiService, useValue: api },
        { provide: EngineService, useValue: engine },
        { provide: UserPreferences, useValue: new FakePreferences() },
      ],
    });
  });

  it('states each recipe in trade notation', async () => {
    await open();
    expect([names(), (named('Settings', host()) as HTMLInputElement).value]).toEqual([['Headline'], 'Quarry Regular 40/44 0']);
  });

  it('restates one that nothing follows at once, and prints it as it is printed everywhere', async () => {
    await open();
    const field = await enter(fixture, 'Settings', 'Quarry Bold 48pt/50 -10', host());
    await until(() => api.recipes[0]?.settings.style.sizePt === 48);
    await fixture.whenStable();
    expect(api.recipes[0]?.settings.style).toEqual(jasmine.objectContaining({ faceId: 'bold', trackingMilliem: -10 }));
    expect(field.value).toBe('Quarry Bold 48/50 −10');
    expect(dialog()).toBeNull();
  });

  it('tells what a change reaches; without a yes it stays, and so does its line', async () => {
    api.followers = [{ id: 'j', title: 'Perseids poster', blocks: 2 }];
    await open();
    const field = await enter(fixture, 'Settings', '60/62', host());
    await until(() => dialog() !== null);
    expect(dialog()?.textContent).toContain('“Perseids poster”: 2 blocks');
    await press(fixture, 'Cancel');
    await until(() => field.value === 'Quarry Regular 40/44 0');
    expect(api.recipes[0]?.settings).toEqual(settings);
    await enter(fixture, 'Settings', '60/62', host());
    await until(() => dialog() !== null);
    await press(fixture, 'Update recipe');
    await until(() => api.recipes[0]?.settings.style.sizePt === 60);
  });

  it('says which word of a line it does not understand, and changes nothing', async () => {
    await open();
    await enter(fixture, 'Settings', 'Quarry 48/fifty', host());
    expect(host().querySelector('[role=alert]')?.textContent).toContain('fifty');
    expect(api.recipes[0]?.settings).toEqual(settings);
    await enter(fixture, 'Settings', 'Quarry 48/50', host());
    expect(host().querySelector('[role=alert]')).toBeNull();
  });

  it('renames, and takes no empty name', async () => {
    await open();
    await enter(fixture, 'Name', 'Title', host());
    expect(api.recipes.map(({ name }) => name)).toEqual(['Title']);
    expect((await enter(fixture, 'Name', '  ', host())).value).toBe('Title');
  });

  it('makes a new one, but no second of a name', async () => {
    await open();
    for (const name of ['Caption', 'Caption']) {
      await press(fixture, 'New recipe', host());
      await enter(fixture, 'Name', name, dialog() ?? undefined);
      await press(fixture, 'Make recipe');
      await until(() => dialog() === null && names().length === 2);
    }
    await until(() => names().includes('Caption'));
    expect(toasts).toEqual(['There is a recipe “Caption” already.']);
  });

  it('deletes after asking', async () => {
    await open();
    await press(fixture, 'Delete', host());
    await press(fixture, 'Delete', dialog() ?? undefined);
    await until(() => names().length === 0);
    expect(host().textContent).toContain('No recipes yet');
  });

  it('brings in what it handed over', async () => {
    await open([]);
    const own = { id: 'x', name: 'Poster', settings: { ...settings, align: 'centre' as const } };
    const field = host().querySelector('[data-testid=tokens]') as HTMLInputElement;
    await offer(
      fixture,
      field,
      'tokens.json',
      writeTokens([own], () => ({ family: 'Quarry', weight: 400, italic: false })),
    );
    await until(() => names().length === 1);
    expect(api.recipes[0]).toEqual(jasmine.objectContaining({ name: 'Poster', settings: own.settings }));
    const second = { ...own, name: 'Leaflet' };
    await offer(
      fixture,
      field,
      'more.json',
      writeTokens([own, second], () => ({ family: 'Quarry', weight: 400, italic: false })),
    );
    await until(() => names().length === 2);
    await offer(fixture, field, 'colours.json', '{"night": {"$type": "color", "$value": "#000"}}');
    await until(() => toasts.length === 3);
    expect(names()).toEqual(['Poster', 'Leaflet']);
    expect(toasts).toEqual(['Imported: Poster.', 'Imported: Leaflet. Not imported (the name is in use): Poster.', 'The file holds no typography tokens.']);
  });
});
