// The floors of each workspace, lowest first: a folder may use those on its own floor and below. `docs/architecture.md` says what each is for.
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../steps.mjs';

const FLOORS = {
  'core/src': [
    // the ground: errors, caches, lengths, versions
    ['base', 'units', 'stored'],
    // letters: fonts, the white between outlines, the designer's hand
    ['face', 'spacing', 'taste'],
    // the document
    ['job', 'wording', 'merge', 'pulls', 'hyphenation', 'rich-text', 'preferences'],
    // setting: words become lines, lines become drawings
    ['fitting', 'edges', 'setting', 'placing', 'sizes', 'same-white', 'compare', 'drawing'],
    // judgement
    ['advice', 'superiors', 'findings', 'refine', 'drill'],
    // files, pictures and messages
    ['api', 'formats', 'intake', 'package', 'pairs', 'proof', 'reading', 'reference', 'rendering', 'report', 'svg-text'],
  ],
  'server/src': [
    ['http'],
    ['database', 'pool'],
    ['filing', 'backups', 'preferences', 'drill', 'pictures'],
    ['jobs'],
    ['faces'],
    ['recipes', 'drawing'],
    ['pulls'],
    ['exports'],
    ['measures', 'packages'],
    ['intake'],
    ['openapi', 'demo'],
  ],
  'web/src/app': [
    // what this browser keeps, and controls
    ['kept', 'ui'],
    // the server
    ['api'],
    // the person's preferences and recipes
    ['settings'],
    // the worker that sets and measures
    ['engine'],
    ['drawing', 'offline', 'intake'],
    // pages
    ['bench', 'drill', 'recipes', 'shelf', 'type-case'],
  ],
};

for (const [base, floors] of Object.entries(FLOORS)) {
  const files = readdirSync(join(root, base), { recursive: true }).filter((file) => file.includes('/') && file.endsWith('.ts'));
  const lost = files.map((file) => file.split('/')[0]).find((folder) => !floors.flat().includes(folder));
  if (lost) throw new Error(`${base}/${lost} has no floor: name it in scripts/lint/floors.mjs.`);
}

/** The files beside a workspace's folders put its parts together: no folder uses them. */
const roofs = Object.entries(FLOORS).map(([base, floors]) => ({
  target: floors.flat().map((folder) => `${root}/${base}/${folder}/**/!(*.spec).ts`),
  from: `${root}/${base}/!(testing).ts`,
  message: 'This file puts the folders together: none of them uses it (scripts/lint/floors.mjs).',
}));

/** Zones of `import-x/no-restricted-paths`: each floor is closed to what stands above it. */
export const floorZones = Object.entries(FLOORS)
  .flatMap(([base, floors]) =>
    floors.slice(0, -1).map((folders, floor) => ({
      target: folders.map((folder) => `${root}/${base}/${folder}/**/!(*.spec).ts`),
      from: floors
        .slice(floor + 1)
        .flat()
        .map((folder) => `${root}/${base}/${folder}/**`),
      message: `It stands on a higher floor of ${base} (scripts/lint/floors.mjs).`,
    })),
  )
  .concat(roofs);
