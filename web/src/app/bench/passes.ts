import type { Provider } from '@angular/core';
import { edgesPass } from './deck/edges/edges.pass';
import { facePass } from './deck/face/face.pass';
import { fitPass } from './deck/fit/fit.pass';
import { kerningPass } from './deck/kerning/kerning.pass';
import { proofPass } from './deck/proof/proof.pass';
import { shiftPass } from './deck/shift/shift.pass';
import { leadingPass } from './deck/leading/leading.pass';
import { trackingPass } from './deck/tracking/tracking.pass';
import { wordsPass } from './deck/words/words.pass';
import { PASSES, type Pass } from './pass';
import { PASS_NEEDS } from './pass-needs';

/** In the order of the work. A new one is a folder of its own and a line here. */
export const ALL_PASSES: readonly Pass[] = [wordsPass, facePass, trackingPass, leadingPass, kerningPass, shiftPass, fitPass, edgesPass, proofPass];

/** Passes, and what they keep for themselves. */
export const providePasses = (passes = ALL_PASSES): Provider[] => [
  { provide: PASSES, useValue: passes },
  { provide: PASS_NEEDS, useValue: new Map(passes.map(({ id, needs }) => [id, needs])) },
  ...passes.flatMap(({ state }) => state),
];
