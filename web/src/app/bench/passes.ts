import type { Type } from '@angular/core';
import { FaceDeck } from './deck/face/face-deck';
import { KerningDeck } from './deck/kerning/kerning-deck';
import { LeadingDeck } from './deck/leading/leading-deck';
import { TrackingDeck } from './deck/tracking/tracking-deck';
import { WordsDeck } from './deck/words/words-deck';

export type PassId = 'words' | 'face' | 'tracking' | 'leading' | 'kerning';

/** A step of the craft: chooses the overlay on the table and the instrument in the deck, nothing else. */
export interface Pass {
  id: PassId;
  name: string;
  /** The letter that brings it up. */
  key: string;
  deck: Type<unknown>;
}

/** In the order of the work. */
export const PASSES: readonly Pass[] = [
  { id: 'words', name: 'Words', key: 'w', deck: WordsDeck },
  { id: 'face', name: 'Face', key: 'f', deck: FaceDeck },
  { id: 'tracking', name: 'Tracking', key: 't', deck: TrackingDeck },
  { id: 'leading', name: 'Leading', key: 'l', deck: LeadingDeck },
  { id: 'kerning', name: 'Kerning', key: 'k', deck: KerningDeck },
];
