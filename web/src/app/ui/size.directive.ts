import { Directive, ElementRef, type OnDestroy, inject, output } from '@angular/core';

/** Tells the size of its element, in CSS pixels, now and whenever it changes. */
@Directive({ selector: '[jxSize]' })
export class SizeDirective implements OnDestroy {
  readonly jxSize = output<{ width: number; height: number }>();
  private readonly observer = new ResizeObserver(([entry]) => {
    if (entry) this.jxSize.emit({ width: entry.contentRect.width, height: entry.contentRect.height });
  });

  constructor() {
    this.observer.observe(inject<ElementRef<Element>>(ElementRef).nativeElement);
  }

  ngOnDestroy(): void {
    this.observer.disconnect();
  }
}
