import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Toasts } from './ui/toasts';

@Component({
  selector: 'jx-root',
  imports: [RouterOutlet, Toasts],
  template: '<router-outlet /><jx-toasts />',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Root {}
