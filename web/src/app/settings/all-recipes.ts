import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Recipe, RecipeSettings } from '@jentrix/core/job';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { BehaviorSubject, firstValueFrom } from 'rxjs';
import { ApiService } from '../api/api.service';
import { ask } from '../ui/ask-dialog';

/** The recipes the server keeps. */
@Injectable({ providedIn: 'root' })
export class AllRecipes {
  private readonly api = inject(ApiService);
  private readonly modal = inject(NgbModal);
  private readonly subject = new BehaviorSubject<readonly Recipe[]>([]);
  readonly recipes$ = this.subject.asObservable();
  readonly recipes = toSignal(this.recipes$, { requireSync: true });

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

  /**
   * Tells which jobs a change of a recipe reaches, and asks whether it may; where there is nothing to tell it needs no asking.
   * @param lines what else to tell, first. @throws ApiError
   */
  async mayChange({ id, name }: Recipe, lines: readonly string[] = []): Promise<boolean> {
    const { jobs } = await firstValueFrom(this.api.followersOfRecipe(id));
    if (jobs.length === 0 && lines.length === 0) return true;
    const reached = jobs.map(({ title, blocks }) => `“${title}”: ${blocks} ${blocks === 1 ? 'block' : 'blocks'}; overrides stay.`);
    return (await ask(this.modal, { title: `Update “${name}” everywhere?`, lines: [...lines, ...reached], yes: 'Update recipe' })) !== undefined;
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
