/** Older job files, brought up to date one version at a time. */
import { z } from 'zod';
import { WordedError } from '../errors';
import { JOB_VERSION } from './schema';

type Loose = Record<string, unknown>;
type Upgrade = (job: Loose) => Loose;

const isLoose = (value: unknown): value is Loose => typeof value === 'object' && value !== null && !Array.isArray(value);

const mapArray = (value: unknown, map: (item: Loose) => Loose): unknown =>
  Array.isArray(value) ? value.map((item: unknown) => (isLoose(item) ? map(item) : item)) : value;

/** Version 1 stored leading as a bare number of points and had neither axes nor features. */
const fromVersion1: Upgrade = (job) => ({
  ...job,
  version: 2,
  sheets: mapArray(job['sheets'], (sheet) => ({
    ...sheet,
    blocks: mapArray(sheet['blocks'], (block) => ({
      ...block,
      leading: typeof block['leading'] === 'number' ? { kind: 'pt', pt: block['leading'] } : block['leading'],
      style: isLoose(block['style']) ? { axes: {}, features: {}, ...block['style'] } : block['style'],
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

const STYLE_DEFAULTS = {
  kerningStrength: 1,
  case: 'typed',
  scaleX: 1,
  scaleY: 1,
  opacity: 1,
  gradient: null,
  outline: null,
  underline: false,
  strike: false,
  shadow: null,
};

/** Version 2 had no kerning by shape, findings, pair rules, guides, case, scale, effects, paragraphs or ways to grow. */
const fromVersion2: Upgrade = (job) => ({
  pairs: [],
  ...job,
  version: 3,
  sheets: mapArray(job['sheets'], (sheet) => ({
    guides: [],
    safeShare: 0,
    centreLines: false,
    ...sheet,
    blocks: mapArray(sheet['blocks'], (block) => ({
      ...BLOCK_DEFAULTS,
      ...block,
      style: isLoose(block['style']) ? { ...STYLE_DEFAULTS, ...block['style'] } : block['style'],
    })),
  })),
});

/** Upgrade from each old version to the next. */
const UPGRADES: Readonly<Record<number, Upgrade>> = { 1: fromVersion1, 2: fromVersion2 };

const versioned = z.looseObject({ format: z.literal('jentrix.job'), version: z.int().min(1) });

/** Why something is not a job this program can open. */
export class JobFormatError extends WordedError {
  override readonly name = 'JobFormatError';
}

/**
 * Brings a parsed job file of any known version to the current one; the result still has to pass `jobSchema`.
 * @throws JobFormatError for something that is no job, or one from a newer Jentrix.
 */
export function upgradeJob(value: unknown): unknown {
  const parsed = versioned.safeParse(value);
  if (!parsed.success) throw new JobFormatError('This is not a Jentrix job: it doesn’t say "format": "jentrix.job" and a version.');
  let job: Loose = parsed.data;
  if (parsed.data.version > JOB_VERSION) {
    throw new JobFormatError(`This job was written by a newer Jentrix (format ${parsed.data.version}; this one reads up to ${JOB_VERSION}).`);
  }
  for (let version = parsed.data.version; version < JOB_VERSION; version++) {
    const upgrade = UPGRADES[version];
    if (!upgrade) throw new JobFormatError(`Job format ${version} can’t be read any more.`);
    job = upgrade(job);
  }
  return job;
}
