import { ApplicationRef, Injectable, Injector, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { PASSAGE_TYPE, pastePassage } from '@jentrix/core/wording';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { fromEvent } from 'rxjs';
import { UserPreferences } from '../settings/user-preferences';
import { ToastService } from '../ui/toasts';
import { BenchStore } from './bench.store';
import { type CopyColumn, readPassage } from './copy-column/copy-column';
import { AWAY, openDialog } from './dialogs/dialogs';
import { type KeyLayer, layerOf } from './key-layer';
import { allKeys, heardKey } from './keys';
import { PASSES } from './pass';
import { PlaceService } from './state/place';
import type { Table } from './table/table';

/** Keys, pastes and drops on the bench: each goes to the part of the bench that it is meant for. */
@Injectable()
export class BenchInput {
  private readonly store = inject(BenchStore);
  private readonly preferences = inject(UserPreferences);
  private readonly toasts = inject(ToastService);
  private readonly modal = inject(NgbModal);
  private readonly place = inject(PlaceService);
  private readonly injector = inject(Injector);
  private readonly app = inject(ApplicationRef);
  private readonly keys = allKeys(inject(PASSES));
  /** The parts that are on the page. */
  private parts: { table: () => Table | undefined; copyColumn: () => CopyColumn | undefined } = { table: () => undefined, copyColumn: () => undefined };
  /** The layer that a pressed key belongs to, decided before any handler changes the focus. */
  private layer: KeyLayer = 'bench';
  private gestures = 0;

  constructor() {
    fromEvent(document, 'keydown', { capture: true })
      .pipe(takeUntilDestroyed())
      .subscribe(({ target }) => (this.layer = layerOf(target, document)));
  }

  /** Tells which parts take what comes. */
  attach(parts: BenchInput['parts']): void {
    this.parts = parts;
  }

  key(event: KeyboardEvent): void {
    const { layer } = this;
    if (!this.store.job || event.defaultPrevented) return;
    if (event.key === 'Escape' && (layer === 'field' || layer === 'live field' || layer === 'control')) {
      this.place.focusBench();
      return;
    }
    const heard = heardKey(this.keys, event, layer, this.preferences.current, this.store.view.pass);
    if (!heard) return;
    event.preventDefault();
    if (!event.repeat) this.gestures++;
    const focused = document.activeElement;
    heard.binding.run(
      {
        store: this.store,
        preferences: this.preferences.current,
        gesture: `key-${event.code}-${this.gestures}`,
        get: (state) => this.injector.get(state),
        help: () =>
          void this.toasts.trying(
            () => openDialog(this.modal, 'keys', { ariaLabelledBy: 'keys-title', size: 'lg', scrollable: true, injector: this.injector }),
            AWAY,
          ),
        find: () => this.parts.copyColumn()?.find(),
        zoom: (to) => this.parts.table()?.zoomTo(to),
      },
      event,
      heard.which,
    );
    // What was asked for from a button is at the bench.
    if (heard.binding.reach === 'page' && layer === 'control' && document.activeElement === focused) this.place.focusBench();
    // Drawn in the key's own task: together with the browser's layout and paint it made one that was too long on a slow machine.
    this.app.tick();
  }

  /** Handles a paste outside of fields. */
  pasted(event: ClipboardEvent): void {
    const { clipboardData: data } = event;
    const layer = layerOf(document.activeElement, document);
    const column = this.parts.copyColumn();
    if (!data || !column || event.defaultPrevented || (layer !== 'bench' && layer !== 'control')) return;
    event.preventDefault();
    const passage = readPassage(data.getData(PASSAGE_TYPE));
    if (passage) {
      column.add(passage.words, (job, id) => pastePassage(job, id, 0, passage.words.length, passage));
      return;
    }
    const what = { files: [...data.files], html: data.getData('text/html'), text: data.getData('text/plain') };
    void this.toasts.trying(async () => (await import('../intake/onto-bench')).paste(what, column.add.bind(column), this.store, this.injector), AWAY);
  }

  /** Files are over the bench. */
  over(event: DragEvent): void {
    if (event.dataTransfer?.types.includes('Files')) event.preventDefault();
  }

  drop(event: DragEvent): void {
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files.length === 0 || event.defaultPrevented) return;
    event.preventDefault();
    const at = this.parts.table()?.placeUnder(event);
    void this.toasts.trying(async () => (await import('../intake/onto-bench')).bringIn(files, at, this.store, this.injector), AWAY);
  }

  /** A button that was pressed by the pointer gives the keys back to the bench; by keyboard they stay where they are. */
  clicked({ detail, target }: MouseEvent): void {
    if (detail === 0) return;
    const giveBack = (): void => {
      const { activeElement: focused } = document;
      if (focused?.tagName !== 'A' && layerOf(focused, document) === 'control' && !(focused instanceof HTMLInputElement && focused.type === 'color'))
        this.place.focusBench();
    };
    // At once, so that the next key is the bench's; what opens a menu keeps them while that comes.
    if (target instanceof Element && target.closest('[aria-expanded]')) setTimeout(giveBack);
    else giveBack();
  }
}
