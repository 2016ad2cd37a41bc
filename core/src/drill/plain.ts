/** Dealing for those who have blocks at hand. */
import { createBlock } from '../job';
import type { FaceSet } from '../setting';
import { type DealRequest, type Exercise, dealFrom } from './deal';
import { type DrillLine, drillLineFrom } from './line';

const plain = createBlock('drill', '', { xPt: 0, yPt: 0, widthPt: 1000, heightPt: 1000 });

/** See `dealFrom`. @throws DrillError */
export const deal = (request: DealRequest, faces: FaceSet): Exercise => dealFrom(plain, request, faces);

/** See `drillLineFrom`. @throws DrillError */
export const drillLine = (words: string, faceId: string, faces: FaceSet): DrillLine => drillLineFrom(plain, words, faceId, faces);
