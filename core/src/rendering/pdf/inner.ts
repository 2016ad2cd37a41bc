/** The parts of the PDF library used beyond its documented surface. */
/** An object of the file with its dictionary and, where it has one, its stream. */
export interface PdfObject {
  data: Record<string, unknown>;
  write(chunk: string): void;
  end(chunk?: string): void;
}

interface PdfPage {
  content: PdfObject;
  readonly resources: PdfObject;
  readonly dictionary: PdfObject;
  readonly xobjects: Record<string, PdfObject>;
  readonly ext_gstates: Record<string, PdfObject>;
  readonly fonts: Record<string, PdfObject>;
}

/** A font as it is embedded: glyphs enter one by one. */
export interface EmbeddedFont {
  readonly id: string;
  readonly subset: { includeGlyph(glyphId: number): number };
  /** By glyph of the subset: what it stands for, and its width in 1/1000 em. */
  readonly unicode: (readonly number[])[];
  readonly widths: number[];
  readonly scale: number;
  ref(): PdfObject;
}

/** The document from within. */
export type Inner = Omit<PDFKit.PDFDocument, 'page' | 'ref' | 'addContent'> & {
  readonly page: PdfPage;
  /** From the coordinates that are drawn in to those of the page. */
  _ctm: number[];
  readonly _font: EmbeddedFont;
  readonly _fontFamilies: Record<string, EmbeddedFont>;
  ref(data: Record<string, unknown>): PdfObject;
  /** Says the same as the document information once more (XMP), with a date. */
  endMetadata: () => void;
  addContent(operators: string): void;
  /** Reads a picture, to be shown as often as is wanted. */
  openImage(bytes: Buffer): unknown;
};

export const innerOf = (doc: PDFKit.PDFDocument): Inner => doc as unknown as Inner;
