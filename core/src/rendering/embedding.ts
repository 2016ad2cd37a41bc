/** Faces as web pages and SVGs hold them: WOFF2 with only the letters that are used, where their makers allow it. */
import type { DrawingNode, SheetDrawing } from '../drawing';
import type { FaceInstance, Face } from '../face';
import type { EmbeddedFonts } from '../formats';
import type { FaceSet } from '../setting';
import { subsetFont } from './subset';

/** The fonts of a sheet, each once whatever its position in design space. */
export async function embeddedFonts(drawing: SheetDrawing, faces: FaceSet): Promise<EmbeddedFonts> {
  const used = new Map<Face, Set<string>>();
  const walk = (node: DrawingNode): void => {
    if (node.kind === 'group') node.nodes.forEach(walk);
    if (node.kind !== 'letters') return;
    const { face } = faces.instance(node.style);
    const texts = used.get(face) ?? new Set();
    used.set(face, texts);
    for (const { shows } of node.glyphs) texts.add(shows);
  };
  drawing.blocks.forEach(walk);
  const names = new Map<Face, string>();
  const rules: string[] = [];
  for (const [face, texts] of used) {
    if (face.embedding === 'no') continue;
    const name = `jx-face-${names.size + 1}`;
    rules.push(`@font-face { font-family: "${name}"; src: url("${await woff2Of(face, texts)}") format("woff2"); font-weight: 1 1000; }`);
    names.set(face, name);
  }
  const family = ({ face }: FaceInstance): string => {
    const own = names.get(face);
    return own === undefined ? `"${face.family.replaceAll('"', '')}"` : `"${own}"`;
  };
  return { rules, familyOf: family, embeds: ({ face }) => names.has(face) };
}

async function woff2Of(face: Face, texts: ReadonlySet<string>): Promise<string> {
  const codePoints = new Set([...texts].flatMap((text) => Array.from(text, (character) => character.codePointAt(0) ?? 0x20)));
  const sfnt = face.embedding === 'subset' ? await subsetFont(face.sfnt, { codePoints }) : face.sfnt;
  const { compress } = await import('woff2-encoder');
  return `data:font/woff2;base64,${Buffer.from(await compress(sfnt)).toString('base64')}`;
}
