import { DestroyRef, Directive, ElementRef, Injector, afterRenderEffect, inject, input, output, signal } from '@angular/core';
import type { DragRef, DropListRef } from '@angular/cdk/drag-drop';

/** An item was dragged from one place among its siblings to another, both counted from 0. */
export interface Sorted {
  from: number;
  to: number;
}

/** Loads what sorting takes: wanted when a pointer comes near at the earliest. */
export const sortingKit = (): Promise<typeof import('@angular/cdk/drag-drop')> => import('@angular/cdk/drag-drop');

/** Lets the items in an element be put in another order by dragging them sideways. Whoever listens changes the order itself. */
@Directive({ selector: '[jxSortByDrag]', host: { '(pointerenter)': 'load()' } })
export class SortByDrag {
  /** The items, in their order. */
  readonly items = input.required<readonly unknown[]>({ alias: 'jxSortByDrag' });
  /** Which children are items: a CSS selector. */
  readonly of = input.required<string>();
  readonly sorted = output<Sorted>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly injector = inject(Injector);
  private readonly kit = signal<Awaited<ReturnType<typeof sortingKit>> | undefined>(undefined);
  private readonly drags = new Map<HTMLElement, DragRef>();
  private list: DropListRef | undefined;
  /** True while an item is dragged, which stands elsewhere in the page meanwhile. */
  private readonly dragging = signal(false);

  constructor() {
    afterRenderEffect(() => {
      this.items();
      const kit = this.kit();
      if (kit && !this.dragging()) this.take(kit);
    });
    inject(DestroyRef).onDestroy(() => {
      for (const drag of this.drags.values()) drag.dispose();
      this.list?.dispose();
    });
  }

  /** Without the server, items stay where they are until a pointer comes once more. */
  protected load(): void {
    if (!this.kit())
      sortingKit().then(
        (kit) => this.kit.set(kit),
        () => undefined,
      );
  }

  private take(kit: Awaited<ReturnType<typeof sortingKit>>): void {
    this.list ??= this.begin(kit);
    const items = [...this.host.children].filter((child): child is HTMLElement => child instanceof HTMLElement && child.matches(this.of()));
    for (const [item, drag] of this.drags) {
      if (items.includes(item)) continue;
      drag.dispose();
      this.drags.delete(item);
    }
    this.list.withItems(
      items.map((item) => {
        const drag = this.drags.get(item) ?? kit.createDragRef(this.injector, item);
        drag.lockAxis = 'x';
        this.drags.set(item, drag);
        return drag;
      }),
    );
  }

  private begin(kit: Awaited<ReturnType<typeof sortingKit>>): DropListRef {
    const list = kit.createDropListRef(this.injector, this.host).withOrientation('horizontal');
    list.lockAxis = 'x';
    list.beforeStarted.subscribe(() => this.dragging.set(true));
    list.dropped.subscribe(({ previousIndex, currentIndex }) => {
      this.dragging.set(false);
      this.sorted.emit({ from: previousIndex, to: currentIndex });
    });
    return list;
  }
}
