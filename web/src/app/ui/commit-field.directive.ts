import { Directive, ElementRef, type OnChanges, inject, input, output } from '@angular/core';

/**
 * A field for a name: Enter takes what was typed and stays, Escape gives the old name back, leaving takes it.
 * An empty name is not taken, and `refused` says so; the old one comes back.
 */
@Directive({
  selector: 'input[jxCommit]',
  exportAs: 'jxCommit',
  host: { '(keydown)': 'key($event)', '(blur)': 'commit()' },
})
export class CommitField implements OnChanges {
  /** The name as it is. */
  readonly jxCommit = input.required<string>();
  /** Another name, without blanks around it. */
  readonly committed = output<string>();
  /** The field was left empty. */
  readonly refused = output();
  private readonly field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;

  ngOnChanges(): void {
    this.reset();
  }

  /** Shows the name as it is: what was typed could not be taken. */
  reset(): void {
    this.field.value = this.jxCommit();
  }

  protected key(event: KeyboardEvent): void {
    if (event.key === 'Enter') {
      event.preventDefault();
      this.commit();
      this.field.select();
    } else if (event.key === 'Escape' && this.field.value !== this.jxCommit()) {
      // Backs out of the typing, and of nothing else.
      event.preventDefault();
      event.stopPropagation();
      this.field.value = this.jxCommit();
      this.field.select();
    }
  }

  protected commit(): void {
    const name = this.field.value.trim();
    if (name === '') this.refused.emit();
    if (name === '' || name === this.jxCommit()) this.field.value = this.jxCommit();
    else this.committed.emit(name);
  }
}
