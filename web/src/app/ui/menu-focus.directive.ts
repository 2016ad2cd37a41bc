import { Directive, ElementRef, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NgbDropdown } from '@ng-bootstrap/ng-bootstrap/dropdown';

/** When a menu closes, the focus that was in it goes back to what opened it instead of nowhere. */
@Directive({ selector: '[ngbDropdown]' })
export class MenuFocus {
  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    inject(NgbDropdown)
      .openChange.pipe(takeUntilDestroyed())
      .subscribe((open: boolean) => {
        const { activeElement: active, body } = document;
        if (!open && (active === null || active === body || active.closest('.dropdown-menu'))) host.querySelector<HTMLElement>('[ngbDropdownToggle]')?.focus();
      });
  }
}
