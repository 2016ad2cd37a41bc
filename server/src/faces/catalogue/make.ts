// Makes faces/catalogue anew from folders of installed font packages: node --import tsx server/src/faces/catalogue/make.ts NODE_MODULES …
// Copies latin styles, unpacks variable ones, measures every face, and collects the licences. Without a folder it measures what lies
// there, and the shipped faces. Run by hand when families are added, or when faces are measured in another way.
import { copyFileSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import decodeWoff2 from 'woff2-encoder/decompress';
import * as z from 'zod';
import { describeFont } from '../describe-font';
import { type Listed, writeListed } from '../listed';

const sources = process.argv.slice(2);
const root = new URL('../../../..', import.meta.url).pathname;
const out = join(root, 'faces/catalogue');
const filesSchema = z.array(z.object({ id: z.string(), file: z.string(), licence: z.string() }));
const SHIPPED_WHOLE = new Set(['alegreya', 'eb-garamond', 'josefin-sans', 'playfair-display', 'source-sans-3']);

for (const index of [join(root, 'faces/faces.json'), join(out, 'catalogue.json')]) {
  // What was measured in another way need not be what is listed now.
  const files = filesSchema.parse(JSON.parse(readFileSync(index, 'utf8')));
  writeListed(index, await Promise.all(files.map(({ id, file, licence }) => measured(join(index, '..'), id, file, licence))));
}
if (sources.length === 0) process.exit();

rmSync(out, { recursive: true, force: true });
mkdirSync(out, { recursive: true });
const entries: Listed[] = [];

async function measured(folder: string, id: string, file: string, licence: string): Promise<Listed> {
  const { fields } = await describeFont({ path: join(folder, file) });
  const { family, style, anatomy, axes, features, ...posture } = fields;
  return { id, file, licence, family, style, ...posture, anatomy, axes, features };
}

async function add(family: string, file: string, from: string, licence: string): Promise<void> {
  if (from.endsWith('.woff2')) writeFileSync(join(out, file), await decodeWoff2(new Uint8Array(readFileSync(from))));
  else copyFileSync(from, join(out, file));
  const licenceFile = `${family}.txt`;
  copyFileSync(licence, join(root, 'faces/licences', licenceFile));
  entries.push(await measured(out, file.replace(/\.\w+$/, ''), file, licenceFile));
}

for (const source of sources) {
  for (const family of existsSync(join(source, '@fontsource')) ? readdirSync(join(source, '@fontsource')).sort() : []) {
    if (SHIPPED_WHOLE.has(family)) continue;
    const folder = join(source, '@fontsource', family);
    const weights = [400, 700, 900].filter((weight) => existsSync(join(folder, `files/${family}-latin-${weight}-normal.woff`))).slice(0, 2);
    for (const weight of weights) {
      await add(family, `${family}-${weight}.woff`, join(folder, `files/${family}-latin-${weight}-normal.woff`), join(folder, 'LICENSE'));
    }
    const italic = join(folder, `files/${family}-latin-400-italic.woff`);
    if (existsSync(italic)) await add(family, `${family}-400-italic.woff`, italic, join(folder, 'LICENSE'));
  }
  for (const family of existsSync(join(source, '@fontsource-variable')) ? readdirSync(join(source, '@fontsource-variable')).sort() : []) {
    const folder = join(source, '@fontsource-variable', family);
    const file = ['full', 'standard', 'opsz', 'wght']
      .map((axes) => join(folder, `files/${family}-latin-${axes}-normal.woff2`))
      .find((path) => existsSync(path));
    if (file) await add(`${family}-variable`, `${family}-variable.ttf`, file, join(folder, 'LICENSE'));
  }
  const cormorant = join(source, '@expo-google-fonts/cormorant-garamond');
  for (const style of existsSync(cormorant) ? ['400Regular', '700Bold'] : []) {
    const file = readdirSync(join(cormorant, style)).find((name) => name.endsWith('.ttf'));
    const id = `cormorant-garamond-whole-${style.slice(0, 3)}.ttf`;
    if (file) await add('cormorant-garamond-whole', id, join(cormorant, style, file), join(cormorant, 'LICENSE_FONT'));
  }
}
writeListed(join(out, 'catalogue.json'), entries);
console.log(`${entries.length} faces`);
