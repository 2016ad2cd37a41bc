/**
 * Words that can be selected and searched over letters that are drawn as outlines: characters without ink, each as wide as its letter
 * has room, in a font of this document alone (PDF 32000-1, section 9.6.5, Type 3 fonts) that says what they stand for (9.10.3).
 */
import { type PdfObject, type Inner } from './inner';
import { utf16 } from './operators';

/**
 * Characters a font holds. Code 0 is an “m” that is never shown: readers judge by its width how large the letters of a font without outlines are,
 * and take it for 0.6 em.
 */
const A_FONT = 255;

export class TextLayer {
  private readonly fonts: { id: string; object: PdfObject; texts: string[] }[] = [];
  private readonly codes = new Map<string, { id: string; object: PdfObject; code: number }>();

  constructor(private readonly doc: Inner) {}

  /** The character that stands for a text: the font’s name on the page, and its code. */
  character(text: string): { font: string; code: number } {
    let known = this.codes.get(text);
    if (!known) {
      let font = this.fonts[this.fonts.length - 1];
      if (!font || font.texts.length === A_FONT) {
        font = { id: `T${this.fonts.length + 1}`, object: this.doc.ref({}), texts: [] };
        this.fonts.push(font);
      }
      font.texts.push(text);
      known = { id: font.id, object: font.object, code: font.texts.length };
      this.codes.set(text, known);
    }
    this.doc.page.fonts[known.id] = known.object;
    return { font: known.id, code: known.code };
  }

  /** Writes the fonts, once all words are there. */
  end(): void {
    if (this.fonts.length === 0) return;
    const blank = this.doc.ref({});
    blank.end('1000 0 d0');
    for (const { object, texts } of this.fonts) {
      const meaning = this.doc.ref({});
      meaning.end(cmapOf(texts));
      Object.assign(object.data, {
        Type: 'Font',
        Subtype: 'Type3',
        FontBBox: [0, -250, 1000, 750],
        FontMatrix: [0.001, 0, 0, 0.001, 0, 0],
        CharProcs: { blank, m: blank },
        Encoding: { Type: 'Encoding', Differences: [0, 'm', ...texts.map(() => 'blank')] },
        FirstChar: 0,
        LastChar: texts.length,
        Widths: [600, ...texts.map(() => 1000)],
        Resources: {},
        ToUnicode: meaning,
      });
      object.end();
    }
  }
}

/** The texts behind the codes of a font. */
const cmapOf = (texts: readonly string[]): string => `/CIDInit /ProcSet findresource begin
12 dict begin
begincmap
/CMapName /Words def
/CMapType 2 def
1 begincodespacerange
<00><ff>
endcodespacerange
${inHundreds(texts.map((text, i) => `<${(i + 1).toString(16).padStart(2, '0')}> <${utf16(text)}>`))
  .map((lines) => `${lines.length} beginbfchar\n${lines.join('\n')}\nendbfchar`)
  .join('\n')}
endcmap
CMapName currentdict /CMap defineresource pop
end
end`;

/** A list in a CMap has at most a hundred lines. */
const inHundreds = (lines: readonly string[]): string[][] =>
  Array.from({ length: Math.ceil(lines.length / 100) }, (_, i) => lines.slice(i * 100, (i + 1) * 100));
