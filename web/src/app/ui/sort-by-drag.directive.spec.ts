import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { SortByDrag, type Sorted, sortingKit } from './sort-by-drag.directive';
import { pageProviders } from './testing';

@Component({
  imports: [SortByDrag],
  template: `
    <div class="row" style="display: flex" [jxSortByDrag]="names()" of=".item" (sorted)="sorted.push($event)">
      @for (name of names(); track name) {
        <div class="item" style="width: 100px; height: 20px">{{ name }}</div>
      }
      <button type="button">Add</button>
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
class Row {
  readonly names = signal(['one', 'two', 'three']);
  readonly sorted: Sorted[] = [];
}

describe('sorting by drag', () => {
  let fixture: ComponentFixture<Row>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;

  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: pageProviders });
    fixture = TestBed.createComponent(Row);
    document.body.append(host());
    await fixture.whenStable();
    host().querySelector('.row')?.dispatchEvent(new PointerEvent('pointerenter'));
    await sortingKit();
    await new Promise((done) => setTimeout(done));
    await fixture.whenStable();
  });
  afterEach(() => host().remove());

  /** Drags an item sideways, in steps as a hand does. */
  function drag(name: string, byPx: number, meanwhile?: () => void): void {
    const item = [...host().querySelectorAll('.item')].find(({ textContent }) => textContent === name);
    if (!item) throw new Error(`There is no ${name}`);
    const { left, top } = item.getBoundingClientRect();
    const send = (type: string, to: EventTarget, x: number): unknown =>
      to.dispatchEvent(new MouseEvent(type, { bubbles: true, cancelable: true, button: 0, buttons: 1, detail: 1, clientX: left + 50 + x, clientY: top + 10 }));
    send('mousedown', item, 0);
    for (let i = 1; i <= 10; i++) send('mousemove', document, (byPx * i) / 10);
    meanwhile?.();
    send('mouseup', document, byPx);
  }

  it('tells from where to where an item went, and leaves the order to who listens', async () => {
    drag('three', -190);
    await new Promise((done) => setTimeout(done, 20));
    expect(fixture.componentInstance.sorted).toEqual([{ from: 2, to: 0 }]);
    expect([...host().querySelectorAll('.item')].map(({ textContent }) => textContent)).toEqual(['one', 'two', 'three']);
  });

  it('does not lose what is being dragged when the items change meanwhile', async () => {
    drag('three', -190, () => {
      fixture.componentInstance.names.set(['one', 'two', 'three']);
      fixture.detectChanges();
    });
    await new Promise((done) => setTimeout(done, 20));
    await fixture.whenStable();
    expect(fixture.componentInstance.sorted).toEqual([{ from: 2, to: 0 }]);
    expect([...host().querySelectorAll('.item')].map(({ textContent }) => textContent)).toEqual(['one', 'two', 'three']);
    drag('one', 95);
    await new Promise((done) => setTimeout(done, 20));
    expect(fixture.componentInstance.sorted[1]).toEqual({ from: 0, to: 1 });
  });

  it('takes up items that come, and leaves those that are gone', async () => {
    fixture.componentInstance.names.set(['two', 'three', 'four']);
    await fixture.whenStable();
    drag('four', -95);
    await new Promise((done) => setTimeout(done, 20));
    expect(fixture.componentInstance.sorted).toEqual([{ from: 2, to: 1 }]);
  });
});
