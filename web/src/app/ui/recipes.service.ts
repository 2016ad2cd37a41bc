import { Injectable, inject } from '@angular/core';
import type { Followers } from '@jentrix/core/api';
import type { Recipe, RecipeSettings } from '@jentrix/core/job';
import { BehaviorSubject, firstValueFrom } from 'rxjs';
import { ApiService } from '../api/api.service';

/** The recipes the server keeps. */
@Injectable({ providedIn: 'root' })
export class RecipesService {
  private readonly api = inject(ApiService);
  private readonly subject = new BehaviorSubject<readonly Recipe[]>([]);
  readonly recipes$ = this.subject.asObservable();

  constructor() {
    void this.refresh().catch(() => undefined);
  }

  find(id: string | null): Recipe | undefined {
    return this.subject.value.find((recipe) => recipe.id === id);
  }

  async refresh(): Promise<void> {
    this.subject.next(await firstValueFrom(this.api.listRecipes()));
  }

  /** @throws ApiError, for a name that is taken too */
  async create(name: string, settings: RecipeSettings): Promise<Recipe> {
    const recipe = await firstValueFrom(this.api.createRecipe(name, settings));
    await this.refresh();
    return recipe;
  }

  /** Which jobs a change of a recipe reaches. */
  followers(id: string): Promise<Followers> {
    return firstValueFrom(this.api.followersOfRecipe(id));
  }

  /** @param exceptJob the job that the caller changes itself. @throws ApiError */
  async change({ id, name, settings }: Recipe, exceptJob?: string): Promise<void> {
    await firstValueFrom(this.api.changeRecipe(id, name, settings, exceptJob));
    await this.refresh();
  }

  async remove(id: string): Promise<void> {
    await firstValueFrom(this.api.removeRecipe(id));
    await this.refresh();
  }
}
