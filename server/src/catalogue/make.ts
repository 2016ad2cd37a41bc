// Makes faces/catalogue anew from a folder of installed font packages: node --import tsx server/src/catalogue/make.ts NODE_MODULES …
// Copies latin styles, unpacks variable ones, measures every face, and collects the licences. Run by hand when families are added.
import { copyFileSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Face, startPosition } from '@jentrix/core/face';
import { measureAnatomy } from '@jentrix/core/advice';
import decodeWoff2 from 'woff2-encoder/decompress';

const sources = process.argv.slice(2);
const root = new URL('../../..', import.meta.url).pathname;
const out = join(root, 'faces/catalogue');
const SHIPPED_WHOLE = new Set(['alegreya', 'eb-garamond', 'josefin-sans', 'playfair-display', 'source-sans-3']);
rmSync(out, { recursive: true, force: true });
mkdirSync(out, { recursive: true });

const entries: object[] = [];

async function add(family: string, file: string, from: string, licence: string): Promise<void> {
  const bytes = new Uint8Array(readFileSync(from));
  const face = await Face.open(bytes, { decodeWoff2: (data) => decodeWoff2(data) });
  const id = file.replace(/\.\w+$/, '');
  if (from.endsWith('.woff2')) writeFileSync(join(out, file), await decodeWoff2(bytes));
  else copyFileSync(from, join(out, file));
  const licenceFile = `${family}.txt`;
  copyFileSync(licence, join(root, 'faces/licences', licenceFile));
  entries.push({
    id,
    file,
    licence: licenceFile,
    family: face.family,
    style: face.style,
    ...face.posture,
    anatomy: measureAnatomy(face.instance(startPosition(face.axes, 24))),
    axes: face.axes,
    features: face.features,
  });
  face.dispose();
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
writeFileSync(join(out, 'catalogue.json'), `[\n${entries.map((entry) => `  ${JSON.stringify(entry)}`).join(',\n')}\n]\n`);
console.log(`${entries.length} faces`);
