import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { applyRecipe, leaveRecipe, recipeOverrides, settingsOf, styleName, updateFollowers } from '@jentrix/core/job';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { ask } from '../../../ui/ask-dialog';
import { AllRecipes } from '../../../settings/all-recipes';
import { ToastService } from '../../../ui/toasts';
import { BenchStore } from '../../bench.store';
import { SaveService } from '../../save.service';

/** The recipe a block follows: take one, see and clear what departs from it, make one of the block, change it from the block. */
@Component({
  selector: 'jx-recipe-line',
  template: `
    <span i18n="@@recipeLine.recipe">Recipe</span>
    <select i18n-aria-label="@@recipeLine.recipe" #choice class="form-select form-select-sm" aria-label="Recipe" (change)="take(choice.value)">
      <option i18n="@@recipeLine.none" value="" [selected]="!recipe()">None</option>
      @for (one of recipes(); track one.id) {
        <option [value]="one.id" [selected]="one.id === recipe()?.id">{{ one.name }}</option>
      }
    </select>
    @if (recipe(); as recipe) {
      @if (overrides().length > 0) {
        <span class="overrides" data-testid="overrides">
          Overrides: {{ overrides().join(', ') }}
          <button i18n="@@recipeLine.clearOverrides" type="button" class="btn btn-link btn-sm" (click)="take(recipe.id)">Clear overrides</button>
          <button i18n="@@recipeLine.updateRecipe" type="button" class="btn btn-link btn-sm" (click)="update()">Update recipe</button>
        </span>
      } @else {
        <span i18n="@@recipeLine.noOverrides" class="quiet">No overrides</span>
      }
    } @else {
      <button i18n="@@recipeLine.makeRecipe" type="button" class="btn btn-link btn-sm" (click)="make()">Make recipe</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 10px;
    }
    span:first-child {
      width: 86px;
      color: var(--jx-quiet);
    }
    select {
      width: 130px;
    }
    .btn-sm {
      padding: 0 2px;
      font-size: 12px;
    }
    .overrides {
      font-size: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RecipeLine {
  private readonly store = inject(BenchStore);
  private readonly save = inject(SaveService);
  private readonly service = inject(AllRecipes);
  private readonly modal = inject(NgbModal);
  private readonly toasts = inject(ToastService);
  protected readonly recipes = this.service.recipes;
  private readonly block = this.store.current.block;
  protected readonly recipe = computed(() => this.recipes().find(({ id }) => id === this.block()?.recipeId));
  protected readonly overrides = computed(() => {
    const [block, recipe] = [this.block(), this.recipe()];
    return block && recipe ? recipeOverrides(block, recipe.settings).map(styleName) : [];
  });

  protected take(id: string): void {
    const recipe = this.service.find(id);
    const { picked } = this.store;
    this.store.apply((job) => picked.reduce((next, blockId) => (recipe ? applyRecipe(next, blockId, recipe) : leaveRecipe(next, blockId)), job));
  }

  protected async make(): Promise<void> {
    const block = this.block();
    const name = block && (await ask(this.modal, { title: 'A recipe of this block', name: 'Headline', yes: 'Make recipe' }));
    if (!block || !name) return;
    await this.toasts.trying(async () => {
      const recipe = await this.service.create(name, settingsOf(block));
      this.store.apply((job) => applyRecipe(job, block.id, recipe));
    });
  }

  /** The block's settings become the recipe's: first it is told what that reaches. */
  protected async update(): Promise<void> {
    const [block, recipe] = [this.block(), this.recipe()];
    if (!block || !recipe) return;
    await this.toasts.trying(async () => {
      await this.save.flush();
      if (!(await this.service.mayChange(recipe, [`Changes: ${this.overrides().join(', ')}.`]))) return;
      const settings = settingsOf(block);
      await this.service.change({ ...recipe, settings }, this.save.jobId);
      this.store.apply((job) => updateFollowers(job, recipe.id, recipe.settings, settings));
    });
  }
}
