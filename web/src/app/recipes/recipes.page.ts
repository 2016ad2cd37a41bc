import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { readTokens } from '@jentrix/core/formats';
import {
  DEFAULT_STYLE,
  plainSettings,
  type Recipe,
  type RecipeSettings,
  SpecError,
  createBlock,
  facesFor,
  parseSpec,
  specOf,
  withSpec,
} from '@jentrix/core/job';
import { autoLeading } from '@jentrix/core/units';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { EngineService } from '../engine/engine.service';
import { ask } from '../ui/ask-dialog';
import { FaceText } from '../ui/face-text.directive';
import { pickedFile } from '../ui/files';
import { AllRecipes } from '../settings/all-recipes';
import { CommitField } from '../ui/commit-field.directive';
import { ToastService } from '../ui/toasts';
import { Places } from '../ui/places';
import { UserPreferences } from '../settings/user-preferences';

/** Recipes to begin with, in the words of their spec lines. */
const STARTERS: readonly { name: string; spec: string }[] = [
  { name: 'Headline', spec: 'Playfair Display Bold 96/100 -8' },
  { name: 'Subhead', spec: 'Source Sans SemiBold 32/38 0' },
  { name: 'Body', spec: 'Source Sans Regular 14/20 +4' },
  { name: 'Caption', spec: 'Source Sans Regular 10/14 +10' },
];

/** All recipes: named, stated in trade notation, brought in and handed over as design tokens and CSS. */
@Component({
  selector: 'jx-recipes',
  imports: [CommitField, FaceText, Places],
  templateUrl: './recipes.page.html',
  styleUrl: './recipes.page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RecipesPage {
  private readonly service = inject(AllRecipes);
  private readonly engine = inject(EngineService);
  private readonly preferences = inject(UserPreferences);
  private readonly modal = inject(NgbModal);
  private readonly toasts = inject(ToastService);
  private readonly faces = this.engine.list;
  private readonly recipes = this.service.recipes;
  protected readonly errors = signal<Readonly<Record<string, string>>>({});
  protected readonly rows = computed(() =>
    this.recipes().map((recipe) => ({
      recipe,
      spec: specOf({ ...createBlock('', '', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 }), ...recipe.settings }, this.faces().items),
      url: `/api/faces/${encodeURIComponent(recipe.settings.style.faceId)}/file`,
    })),
  );

  constructor() {
    void this.engine.engine().catch(() => this.toasts.fail('The faces can’t be loaded: the server can’t be reached.'));
    void this.service.refresh().catch(() => this.toasts.fail('The recipes can’t be loaded: the server can’t be reached.'));
  }

  protected starters(): Promise<boolean> {
    return this.toasts.trying(async () => {
      // Faces are named in the starters: they have to be listed first.
      await this.engine.engine();
      for (const { name, spec } of STARTERS) await this.service.create(name, this.read(spec, this.blank()));
    });
  }

  protected async add(): Promise<void> {
    const name = await ask(this.modal, { title: 'New recipe', name: '', yes: 'Make recipe' });
    if (name) await this.toasts.trying(() => this.service.create(name, this.blank()));
  }

  protected async rename(recipe: Recipe, name: string, field: CommitField): Promise<void> {
    await this.toasts.trying(() => this.service.change({ ...recipe, name }));
    if (this.service.find(recipe.id)?.name !== name) field.reset();
  }

  protected nameless(): void {
    this.toasts.fail('A recipe needs a name: the old one stays.');
  }

  /** Restates a recipe; what follows it is told before it changes. */
  protected async restate(recipe: Recipe, field: HTMLInputElement): Promise<void> {
    let settings: RecipeSettings;
    try {
      settings = this.read(field.value, recipe.settings);
      this.errors.set({ ...this.errors(), [recipe.id]: '' });
    } catch (error) {
      if (!(error instanceof SpecError)) throw error;
      this.errors.set({ ...this.errors(), [recipe.id]: error.message });
      return;
    }
    if (JSON.stringify(settings) !== JSON.stringify(recipe.settings)) {
      await this.toasts.trying(async () => {
        if (await this.service.mayChange(recipe)) await this.service.change({ ...recipe, settings });
      });
    }
    // What was typed stands as it is printed, or as it was where it was not agreed to.
    field.value = this.rows().find((row) => row.recipe.id === recipe.id)?.spec ?? field.value;
  }

  protected async remove(recipe: Recipe): Promise<void> {
    const yes = await ask(this.modal, {
      title: `Delete “${recipe.name}”?`,
      lines: ['Blocks that use it keep their settings.'],
      yes: 'Delete',
    });
    if (yes !== undefined) await this.toasts.trying(() => this.service.remove(recipe.id));
  }

  protected async bringIn(field: HTMLInputElement): Promise<void> {
    const file = pickedFile(field);
    if (!file) return;
    await this.toasts.trying(async () => {
      const tokens = readTokens(await file.text());
      await this.engine.engine();
      const brought: string[] = [];
      const leftOut: string[] = [];
      for (const { name, settings, family, sizePt, trackingMilliem, lineHeight } of tokens) {
        if (this.recipes().some((recipe) => recipe.name === name)) {
          leftOut.push(name);
          continue;
        }
        const face = this.faces().items.find((candidate) => candidate.family.toLowerCase() === family.toLowerCase());
        const base = this.blank();
        const own: RecipeSettings = {
          ...base,
          style: { ...base.style, faceId: face?.id ?? base.style.faceId, sizePt, trackingMilliem },
          leading: lineHeight === undefined ? base.leading : { kind: 'multiple', factor: lineHeight },
        };
        await this.service.create(name, settings ?? own);
        brought.push(name);
      }
      const told = [
        brought.length > 0 ? `Imported: ${brought.join(', ')}.` : '',
        leftOut.length > 0 ? `Not imported (the name is in use): ${leftOut.join(', ')}.` : '',
      ];
      this.toasts.say(told.filter(Boolean).join(' '));
    });
  }

  private read(text: string, from: RecipeSettings): RecipeSettings {
    return withSpec(
      from,
      parseSpec(text, { faces: facesFor(from, this.faces().items), sizePt: from.style.sizePt, autoFactor: this.preferences.current.autoLeadingFactor }),
    );
  }

  private blank(): RecipeSettings {
    return plainSettings(DEFAULT_STYLE, autoLeading(this.preferences.current.autoLeadingFactor));
  }
}
