/** Older job files, brought up to date one version at a time. */
import { WordedError } from '../base';
import { GREEDY, PLAIN_JUSTIFY } from './fit';
import { LIMITS } from './limits';
import { JOB_VERSION } from './schema';
import { upgradedStyle } from './style';

type Loose = Record<string, unknown>;
type Upgrade = (job: Loose) => Loose;

const isLoose = (value: unknown): value is Loose => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Upgrades the items of a list. One longer than is ever read is left as it is, for the schema to refuse: nothing is built from it. */
const mapArray = (value: unknown, most: number, map: (item: Loose) => Loose): unknown =>
  Array.isArray(value) && value.length <= most ? value.map((item: unknown) => (isLoose(item) ? map(item) : item)) : value;

/** Version 1 stored leading as a bare number of points. */
const fromVersion1: Upgrade = (job) => ({
  ...job,
  version: 2,
  sheets: mapArray(job['sheets'], LIMITS.sheets, (sheet) => ({
    ...sheet,
    blocks: mapArray(sheet['blocks'], LIMITS.blocks, (block) => ({
      ...block,
      leading: typeof block['leading'] === 'number' ? { kind: 'pt', pt: block['leading'] } : block['leading'],
    })),
  })),
});

const BLOCK_DEFAULTS = {
  intended: [],
  grow: 'down',
  vertical: 'top',
  trim: false,
  rotationDeg: 0,
  locked: false,
  paragraph: { indentPt: 0, beforePt: 0, afterPt: 0, list: 'none' },
  parked: [],
  lineLeading: [],
  recipeId: null,
};

/** Version 2 had no findings, pair rules, guides, paragraphs or ways to grow. */
const fromVersion2: Upgrade = (job) => ({
  pairs: [],
  ...job,
  version: 3,
  sheets: mapArray(job['sheets'], LIMITS.sheets, (sheet) => ({
    guides: [],
    safeShare: 0,
    centreLines: false,
    ...sheet,
    blocks: mapArray(sheet['blocks'], LIMITS.blocks, (block) => ({ ...BLOCK_DEFAULTS, ...block })),
  })),
});

/** Version 4 knew of no languages. */
const fromVersion4: Upgrade = (job) => ({
  language: null,
  ...job,
  version: 5,
  sheets: mapArray(job['sheets'], LIMITS.sheets, (sheet) => ({
    ...sheet,
    blocks: mapArray(sheet['blocks'], LIMITS.blocks, (block) => ({ language: null, ...block })),
  })),
});

/** Version 6 knew straight lines only, and no larger ends. */
const fromVersion6: Upgrade = (job) => ({
  ...job,
  version: 7,
  sheets: mapArray(job['sheets'], LIMITS.sheets, (sheet) => ({
    ...sheet,
    blocks: mapArray(sheet['blocks'], LIMITS.blocks, (block) => ({ path: { kind: 'straight' }, ends: null, ...block })),
  })),
});

/** Version 7 broke lines greedily, fitted none and aligned by side bearings. */
const fromVersion7: Upgrade = (job) => ({
  ...job,
  version: 8,
  sheets: mapArray(job['sheets'], LIMITS.sheets, (sheet) => ({
    ...sheet,
    blocks: mapArray(sheet['blocks'], LIMITS.blocks, (block) => ({
      fit: null,
      breaking: GREEDY,
      justify: PLAIN_JUSTIFY,
      tightened: [],
      edges: null,
      lineIndents: [],
      ...block,
    })),
  })),
});

/** Version 8 had no references. */
const fromVersion8: Upgrade = (job) => ({
  ...job,
  version: 9,
  sheets: mapArray(job['sheets'], LIMITS.sheets, (sheet) => ({ reference: null, ...sheet })),
});

/** Version 9 had each block for itself. */
const fromVersion9: Upgrade = (job) => ({
  ...job,
  version: 10,
  sheets: mapArray(job['sheets'], LIMITS.sheets, (sheet) => ({
    ...sheet,
    blocks: mapArray(sheet['blocks'], LIMITS.blocks, (block) => ({ part: null, ...block })),
  })),
});

/** The upgrades of each version besides the style's properties, which `upgradeStyle` adds. */
const UPGRADES: Readonly<Record<number, Upgrade>> = {
  1: fromVersion1,
  2: fromVersion2,
  3: (job) => ({ ...job, version: 4 }),
  4: fromVersion4,
  5: (job) => ({ ...job, version: 6 }),
  6: fromVersion6,
  7: fromVersion7,
  8: fromVersion8,
  9: fromVersion9,
  10: (job) => ({ ...job, version: 11 }),
};

/** Gives every block's style the properties that have come since a version. */
const withStyles = (job: Loose, version: number): Loose => ({
  ...job,
  sheets: mapArray(job['sheets'], LIMITS.sheets, (sheet) => ({
    ...sheet,
    blocks: mapArray(sheet['blocks'], LIMITS.blocks, (block) => ({
      ...block,
      style: upgradedStyle(block['style'], version),
    })),
  })),
});

/** Why something is not a job this program can open. */
export class JobFormatError extends WordedError {
  override readonly name = 'JobFormatError';
}

/**
 * Brings a parsed job file of any known version to the current one; the result still has to pass `jobSchema`.
 * @throws JobFormatError for something that is no job, or one from a newer Jentrix.
 */
export function upgradeJob(value: unknown): unknown {
  const from = isLoose(value) && value['format'] === 'jentrix.job' ? value['version'] : undefined;
  if (!isLoose(value) || typeof from !== 'number' || !Number.isInteger(from) || from < 1) {
    throw new JobFormatError('This is not a Jentrix job: it doesn’t say "format": "jentrix.job" and a version.');
  }
  if (from > JOB_VERSION) throw new JobFormatError(`This job was written by a newer Jentrix (format ${from}; this one reads up to ${JOB_VERSION}).`);
  let job = value;
  for (let version = from; version < JOB_VERSION; version++) {
    const upgrade = UPGRADES[version];
    if (!upgrade) throw new JobFormatError(`Job format ${version} can’t be read any more.`);
    job = upgrade(job);
  }
  return from < JOB_VERSION ? withStyles(job, from) : job;
}
