/** Faces as they go into a PDF: only the glyphs that are used, and only where their makers allow it. */
import * as fontkit from 'fontkit';
import { type AxisValues, type FaceInstance, type Outline, controlBounds } from '../../face';
import { subsetFont } from '../subset';
import type { EmbeddedFont, Inner } from './inner';

/** A face in the file. */
export interface PdfFace {
  font: EmbeddedFont;
  /** The code of a glyph, and what a reader takes it for. @param text what it shows; of several the first counts. */
  code(glyphId: number, text: string): { code: string; means: string };
}

/** A glyph as a font file gives it to other programs. */
interface KitFont {
  getGlyph(id: number): { path: { commands: { command: string; args: number[] }[] } };
}

/** Bytes that an outline begins with (OpenType 1.9.1, “glyf”). */
const OUTLINE_HEAD = 10;

/** Outlines that differ by more than this, in em, are not the same. */
const SAME = 0.002;

export class PdfFaces {
  private readonly known = new Map<FaceInstance, PdfFace>();

  constructor(private readonly doc: Inner) {}

  /**
   * Has a face at hand for letters, where its maker allows that and its glyphs look as they are drawn. Each face is prepared once, for all glyphs of the document.
   * @param axes its position in design space.
   */
  async prepare(instance: FaceInstance, axes: AxisValues, glyphs: ReadonlySet<number>): Promise<void> {
    const { face } = instance;
    // The whole font is never embedded here.
    if (face.embedding !== 'subset') return;
    try {
      // Fixed where it stands in design space: documents know no axes.
      const fixed = Object.fromEntries(face.axes.map(({ tag, min, max, default: usual }) => [tag, Math.min(max, Math.max(min, axes[tag] ?? usual))]));
      const part = await subsetFont(face.sfnt, { glyphs, axes: fixed });
      // fontkit reads the head of every outline, also where a blank has none and the file may end.
      const kit = fontkit.create(Buffer.concat([part, Buffer.alloc(OUTLINE_HEAD)])) as unknown as KitFont;
      if (![...glyphs].every((id) => looksTheSame(kit, instance, id))) return;
      const font = this.embedded(kit);
      this.known.set(instance, {
        font,
        code(glyphId, text) {
          const own = font.subset.includeGlyph(glyphId);
          font.widths[own] ??= instance.advance(glyphId) * font.scale;
          const points = (font.unicode[own] ??= Array.from(text, (character) => character.codePointAt(0) ?? 0));
          return { code: own.toString(16).padStart(4, '0'), means: String.fromCodePoint(...points) };
        },
      });
    } catch {
      // A font that others can't read is drawn.
    }
  }

  /** The face, where its glyphs can be taken from it. */
  face(instance: FaceInstance): PdfFace | undefined {
    return this.known.get(instance);
  }

  /** The document takes fonts of one name for one font; positions of a variable font share their name. */
  private embedded(kit: KitFont): EmbeddedFont {
    const { doc } = this;
    doc.font(kit as unknown as Buffer);
    const font = doc._font;
    const families = doc._fontFamilies;
    for (const [name, one] of Object.entries(families)) {
      if (one !== font) continue;
      Reflect.deleteProperty(families, name);
      families[`${name} ${font.id}`] = one;
    }
    return font;
  }
}

function looksTheSame(kit: KitFont, instance: FaceInstance, glyphId: number): boolean {
  const { commands } = kit.getGlyph(glyphId).path;
  const other = controlBounds(commands.map(({ args }): Outline[number] => ({ type: 'L', values: args })));
  const own = controlBounds(instance.outline(glyphId));
  if (!own || !other) return own === other;
  return (['xMin', 'xMax', 'yMin', 'yMax'] as const).every((side) => Math.abs(own[side] - other[side]) <= SAME * instance.unitsPerEm);
}
