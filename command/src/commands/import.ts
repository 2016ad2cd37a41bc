/** `jentrix import`: other files as jobs. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { basename, dirname, extname, join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { writeJobFile } from '@jentrix/core/formats';
import { READERS, readerFor, importJob } from '@jentrix/core/intake';
import { PACKAGE_EXTENSION } from '@jentrix/core/package';
import { type Command, glyphText } from '../command';
import { allFaces } from '../fonts';
import { isPackage } from '../is-package';
import { facesBeside, openedAt, recipesAt, unpackPackage, writeRecipes } from '../packages';
import { picturesBeside } from '../pictures';
import { UsageError } from '../usage-error';

export const importFile: Command = {
  name: 'import',
  usage: ['FILE -o JOB.json [--title TEXT] [--faces DIR] [--pictures DIR]'],
  says:
    `Imports a file as a job: ${READERS.map(({ name, extensions }) => `${name} (${extensions.join(', ')})`).join(', ')}. Of an SVG the text becomes blocks whose letters stand where they stood, their spacing as manual values; ` +
    'everything else becomes the picture underneath, which is written to a folder “pictures” beside the job unless another is said. Missing faces are replaced by the nearest, and listed. CSV has a row a block and names its columns. Headings and copy of Markdown and HTML follow recipes of their names in a “recipes.json” beside the job, which is made or added to. ' +
    'A package is checked and unpacked: the job, its recipes beside it, its pictures, and its faces in a folder “faces” beside the job unless another is said.',
  example: 'poster.svg -o poster.jentrix.json --faces fonts',
  options: ['output', 'title', 'faces', 'pictures'],
  opensPackages: true,
  async run(values, files, { out, error }) {
    const [path, more] = files;
    if (path === undefined || more !== undefined) throw new UsageError('One file is needed.');
    if (values.output === undefined) throw new UsageError('-o JOB.json is needed.');
    if (isPackage(path)) {
      const opened = openedAt(path);
      const faces = facesBeside(values.output, values.faces);
      const { title = opened.job.title, pictures = picturesBeside(values.output) } = values;
      for (const note of unpackPackage({ ...opened, job: { ...opened.job, title } }, values.output, pictures, faces)) error(`jentrix: ${note}\n`);
      out(`A job with ${opened.faces.length} faces (in ${faces}) and ${opened.pictures.length} pictures, written to ${values.output}\n`);
      return 0;
    }
    const reader = readerFor(path);
    if (!reader) throw new UsageError(`Supported endings: ${[...READERS.flatMap(({ extensions }) => extensions), PACKAGE_EXTENSION].join(', ')}.`);
    const { faces, troubles } = await allFaces(values.faces);
    for (const trouble of troubles) error(`jentrix: ${trouble}\n`);
    const name = basename(path, extname(path));
    const pictureId = `${name.slice(0, 60).replace(/[^\p{L}\p{N}._-]+/gu, '-')}-under`;
    const known = recipesAt(values.output);
    const { job, picture, recipes = [], notes } = importJob(reader, glyphText(path), faces, { title: name, newId: randomUUID, pictureId, recipes: known });
    for (const note of notes) error(`jentrix: ${note}\n`);
    if (picture !== undefined) {
      const folder = values.pictures ?? picturesBeside(values.output);
      mkdirSync(folder, { recursive: true });
      writeFileSync(join(folder, `${pictureId}.svg`), picture);
      out(`Everything but its text is in ${join(folder, `${pictureId}.svg`)}\n`);
    }
    mkdirSync(dirname(values.output), { recursive: true });
    writeFileSync(values.output, writeJobFile(values.title === undefined ? job : { ...job, title: values.title }));
    if (recipes.length > 0) {
      writeRecipes(values.output, [...known, ...recipes]);
      out(`Recipes: ${recipes.map((recipe) => recipe.name).join(', ')}\n`);
    }
    const blocks = job.sheets.flatMap((sheet) => sheet.blocks);
    out(`${blocks.length} ${blocks.length === 1 ? 'block' : 'blocks'}, written to ${values.output}\n`);
    return 0;
  },
};
