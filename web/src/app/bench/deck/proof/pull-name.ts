import type { Pull } from '@jentrix/core/api';
import type { PullReason } from '@jentrix/core/pulls';

/** The names of pulls without one. */
const REASONS: Readonly<Record<PullReason, string>> = {
  hand: 'Pull',
  'first-cut': 'Before a first cut',
  face: 'Before another face',
  brief: 'Before a brief',
  mend: 'Before fixing all',
  conflict: 'Changed by two people',
};

export const pullName = ({ name, reason }: Pick<Pull, 'name' | 'reason'>): string => name || REASONS[reason];
