import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Wordmark } from './wordmark';

const PLACES = [
  { name: 'Shelf', path: '/' },
  { name: 'Type case', path: '/type-case' },
  { name: 'Recipes', path: '/recipes' },
  { name: 'Drill', path: '/drill' },
] as const;

/** The head of every page: the name, and the ways to the other pages. The page one is on is the heading. */
@Component({
  selector: 'jx-places',
  imports: [RouterLink, Wordmark],
  template: `
    <a i18n-title="@@places.backToTheShelf" class="home" routerLink="/" title="Back to the shelf"><jx-wordmark /></a>
    <nav i18n-aria-label="@@places.pages" aria-label="Pages">
      @for (place of places; track place.path) {
        @if (place.name === here()) {
          <h1>{{ place.name }}</h1>
        } @else {
          <a [routerLink]="place.path">{{ place.name }}</a>
        }
      }
      @if (help(); as page) {
        <a i18n="@@places.help" [href]="'/help/' + page" target="_blank">Help</a>
      }
    </nav>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      flex: none;
      gap: 14px;
    }
    @media (max-width: 480px) {
      :host {
        flex: initial;
      }
    }
    nav {
      display: var(--jx-places-nav, flex);
      flex-wrap: wrap;
      align-items: baseline;
      column-gap: 10px;
    }
    a,
    h1 {
      white-space: nowrap;
    }
    a {
      color: var(--jx-quiet);
      text-decoration: none;
    }
    a:hover {
      color: var(--jx-accent);
    }
    h1 {
      margin: 0;
      font-size: 15px;
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Places {
  /** The page one is on; absent at the bench, which has a heading of its own. */
  readonly here = input<(typeof PLACES)[number]['name']>();
  /** The page of help that fits; absent where help is elsewhere. */
  readonly help = input<string>();
  protected readonly places = PLACES;
}
