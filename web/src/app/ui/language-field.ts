import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { LANGUAGES } from '@jentrix/core/job';

const NAMES = new Intl.DisplayNames(['en'], { type: 'language' });

/** Chooses the language of words, which decides about their capitals and the forms of their letters. */
@Component({
  selector: 'jx-language',
  template: `
    <select #field class="form-select form-select-sm" [attr.aria-label]="label()" (change)="changed.emit(field.value || null)">
      <option value="" [selected]="language() === null">{{ unset() }}</option>
      @for (choice of choices(); track choice.tag) {
        <option [value]="choice.tag" [selected]="choice.tag === language()">{{ choice.name }}</option>
      }
    </select>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LanguageField {
  readonly label = input.required<string>();
  /** BCP 47; null where none is said. */
  readonly language = input.required<string | null>();
  /** The name of no choice. */
  readonly unset = input.required<string>();
  readonly changed = output<string | null>();

  protected readonly choices = computed(() => {
    const own = this.language();
    const tags: string[] = [...LANGUAGES];
    if (own !== null && !tags.includes(own)) tags.push(own);
    return tags.map((tag) => ({ tag, name: languageName(tag) })).sort((a, b) => a.name.localeCompare(b.name));
  });
}

export const languageName = (tag: string): string => NAMES.of(tag) ?? tag;
