import { Injectable, computed, inject, signal } from '@angular/core';
import { Looks, MM_PER_PT } from '../../state/looks';

/** From how far a screen is looked at, in millimetres. */
export const SCREEN_MM = 600;
/** CSS pixels per millimetre where nobody has measured (CSS Values 4, section 6.2). */
const CSS_PX_PER_MM = 96 / 25.4;
/** The long side of a bank card in millimetres (ISO/IEC 7810, ID-1). */
export const CARD_MM = 85.6;
const KEPT_AS = 'jentrix.px-per-mm';

/** How large this screen shows things: measured once, and kept on this device. */
@Injectable()
export class Screen {
  private readonly looks = inject(Looks);
  /** CSS pixels per millimetre; undefined until it was measured. */
  readonly measured = signal(readMeasured());
  readonly pxPerMm = computed(() => this.measured() ?? CSS_PX_PER_MM);

  /** Shows the sheet as large as it is. */
  trueSize(): void {
    this.looks.show(this.pxPerMm() * MM_PER_PT);
  }

  /** Shows the sheet as large on the screen as it looks from its distance: under the same angle. */
  fromAfar(): void {
    this.looks.show((this.pxPerMm() * MM_PER_PT * SCREEN_MM) / this.looks.distanceMm());
  }

  /** Takes how wide a bank card is on this screen, in CSS pixels; undefined forgets it. */
  calibrate(cardPx: number | undefined): void {
    const value = cardPx === undefined ? undefined : Math.max(1, Math.min(40, cardPx / CARD_MM));
    this.measured.set(value);
    try {
      if (value === undefined) localStorage.removeItem(KEPT_AS);
      else localStorage.setItem(KEPT_AS, String(value));
    } catch {
      // Kept for this visit only.
    }
  }
}

/** The angle under which a length is seen from a distance, in degrees. */
export const angleSeen = (lengthPt: number, distanceMm: number): number => (2 * Math.atan((lengthPt * MM_PER_PT) / 2 / distanceMm) * 180) / Math.PI;

function readMeasured(): number | undefined {
  try {
    const value = Number(localStorage.getItem(KEPT_AS));
    return value >= 1 && value <= 40 ? value : undefined;
  } catch {
    return undefined;
  }
}
