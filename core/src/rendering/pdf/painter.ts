/** Paints a drawing onto the pages of a PDF. */
import { type BlockDrawing, type DrawingNode, type Fill, type GroupNode, type LettersNode, type PictureNode, type Stroke, groupMatrix } from '../../drawing';
import type { FaceInstance } from '../../face';
import { type Visible, onEverySide, softPicture, visibleIn } from '../../formats';
import { type Box, type FaceSet, type Matrix, grown, inkBox, touches } from '../../setting';
import { softener } from '../soften';
import { type PdfFace, PdfFaces } from './faces';
import type { Inner, PdfObject } from './inner';
import { isTight, pdfLettersIn, roomsOf, runsLeft, usedGlyphs, glyphWordsOf, wordsShown } from './letters';
import { matrixOf, outlinePath, pdfRectangle, utf16 } from './operators';
import { TextLayer } from './text-layer';

/** A picture that can be placed: its bytes as PNG or JPEG, and its size in pixels. */
export interface PlaceablePicture {
  bytes: Buffer;
  width: number;
  height: number;
  /** Pixels of an SVG, which was drawn for just the box it stands in. */
  fills?: true;
}

export interface PaintOptions {
  letters: 'outlines' | 'text';
  /** Resolution of what can only be a picture: blurred shadows. */
  ppi: number;
}

/** The coordinates and material of a painter. */
export interface PaintContext {
  faces: FaceSet;
  /** By the picture's identifier. */
  pictures: ReadonlyMap<string, PlaceablePicture>;
  visible: Visible;
  /** True for what is cast by letters in front of it, which has no words of its own. */
  shadow: boolean;
}

/** Less can't be seen. */
const LEAST_OPACITY = 0.001;

/** Words that begin farther off the page than this, in points, are not read. */
const OFF_PAGE = 100;

export class Painter {
  private readonly layer: TextLayer;
  private readonly fonts: PdfFaces;
  private groups = 0;
  private readonly opened = new Map<string, Buffer>();

  constructor(
    private readonly doc: Inner,
    private readonly options: PaintOptions,
  ) {
    this.layer = new TextLayer(doc);
    this.fonts = new PdfFaces(doc);
  }

  /** Has the faces of a document's letters at hand, where they are embedded. */
  async prepare(sheets: readonly { blocks: readonly GroupNode[]; faces: FaceSet }[]): Promise<void> {
    if (this.options.letters !== 'text') return;
    for (const [instance, { axes, glyphs }] of usedGlyphs(sheets)) await this.fonts.prepare(instance, axes, glyphs);
  }

  paint(nodes: readonly DrawingNode[], place: PaintContext): void {
    for (const node of nodes) this.node(node, place);
  }

  /** A block, with its words over it where its letters are outlines. */
  block(block: BlockDrawing, place: PaintContext): void {
    this.node(block, place);
    if (this.options.letters === 'outlines') this.words(block, place);
  }

  end(): void {
    this.layer.end();
  }

  private node(node: DrawingNode, place: PaintContext): void {
    switch (node.kind) {
      case 'group':
        return this.group(node, place);
      case 'letters':
        return this.letters(node, place);
      case 'picture':
        return this.picture(node, place);
      case 'rectangle':
        this.isolated(() => {
          this.fill(node.fill);
          this.doc.addContent(`${pdfRectangle(node.box)} f`);
        });
    }
  }

  private group(node: GroupNode, place: PaintContext): void {
    const { opacity = 1, blurPt } = node;
    if (opacity < LEAST_OPACITY) return;
    const inside = { ...place, visible: visibleIn(node, place.visible), shadow: place.shadow || node.shadow === true };
    const matrix = groupMatrix(node);
    this.isolated(() => {
      if (matrix) this.map(matrix);
      if (blurPt !== undefined) this.soft(node, place);
      else if (opacity < 1) this.asOne(opacity, inside.visible.seen, () => this.paint(node.nodes, inside));
      else this.paint(node.nodes, inside);
    });
  }

  /** Paints blurred nodes as a picture at the stated resolution. */
  private soft(node: GroupNode, { faces, visible }: PaintContext): void {
    const made = softPicture(node, faces, visible, softener(this.options.ppi / 72));
    if (!made) return;
    const { href, room } = made;
    const bytes = Buffer.from(href.slice(href.indexOf(',') + 1), 'base64');
    this.doc.image(bytes, room.leftPt, room.topPt, { width: room.rightPt - room.leftPt, height: room.bottomPt - room.topPt });
  }

  /** Paints what is as opaque as one (PDF 32000-1, section 11.6.6, transparency groups). @param seen what can be seen of it */
  private asOne(opacity: number, seen: Box, paint: () => void): void {
    const { doc } = this;
    const { leftPt, topPt, rightPt, bottomPt } = seen;
    const form: PdfObject = doc.ref({
      Type: 'XObject',
      Subtype: 'Form',
      BBox: [leftPt, topPt, rightPt, bottomPt],
      Group: { Type: 'Group', S: 'Transparency', CS: 'DeviceRGB', I: true },
      Resources: doc.page.resources,
    });
    const outer = { content: doc.page.content, ctm: doc._ctm };
    doc.page.content = form;
    // Gradients count from the coordinates of the group they are in.
    doc._ctm = [1, 0, 0, 1, 0, 0];
    paint();
    doc.page.content = outer.content;
    doc._ctm = outer.ctm;
    form.end();
    const name = `Group${++this.groups}`;
    doc.page.xobjects[name] = form;
    doc.fillOpacity(opacity);
    doc.addContent(`/${name} Do`);
  }

  private picture({ box, pictureId, fit }: PictureNode, { pictures }: PaintContext): void {
    const picture = pictures.get(pictureId);
    if (!picture) return;
    const [width, height] = [box.rightPt - box.leftPt, box.bottomPt - box.topPt];
    const [byWidth, byHeight] = [width / picture.width, height / picture.height];
    const scale = fit === 'cover' ? Math.max(byWidth, byHeight) : Math.min(byWidth, byHeight);
    const size = picture.fills ? { width, height } : { width: picture.width * scale, height: picture.height * scale };
    this.isolated(() => {
      this.doc.addContent(`${pdfRectangle(box)} W n`);
      this.doc.image(this.image(pictureId, picture), box.leftPt + (width - size.width) / 2, box.topPt + (height - size.height) / 2, size);
    });
  }

  /** A picture is in the file once, however many pages show it. */
  private image(id: string, { bytes }: PlaceablePicture): Buffer {
    let known = this.opened.get(id);
    if (!known) this.opened.set(id, (known = this.doc.openImage(bytes) as Buffer));
    return known;
  }

  private letters(node: LettersNode, place: PaintContext): void {
    const { glyphs, rules, style, stroke } = node;
    const { faces, visible, shadow } = place;
    const instance = faces.instance(style);
    // A mitred corner sticks out by at most its limit, 4, times half the width.
    const near = stroke ? grown(visible.seen, onEverySide(2 * stroke.widthPt)) : visible.seen;
    const inked = glyphs.flatMap((glyph) => {
      const box = inkBox(glyph.glyphId, glyph.matrix, instance);
      return box && touches(box, near) ? [{ glyph, box }] : [];
    });
    if (!inked.some(({ box }) => visible.shows(box)) && rules.length === 0) return;
    this.isolated(() => {
      this.fill(node.fill);
      if (stroke) this.stroke(stroke);
      const embeds = this.options.letters === 'text' && !shadow;
      const face = embeds ? this.fonts.face(instance) : undefined;
      if (face) this.placed(node, face, instance);
      else {
        const operator = stroke ? 'B' : 'f';
        for (const { glyph } of inked) this.doc.addContent(outlinePath(instance.outline(glyph.glyphId), glyph.matrix) + operator);
        // Words of a face that can't be embedded lie over its outlines.
        if (embeds) this.words({ kind: 'group', nodes: [node] }, place);
      }
      for (const { box, matrix } of rules)
        this.isolated(() => {
          if (matrix) this.map(matrix);
          this.doc.addContent(`${pdfRectangle(box)} f`);
        });
    });
  }

  /** Glyphs of an embedded face, each in its place; a word says what it is where the glyphs alone would not (PDF 32000-1, section 14.9.4). */
  private placed({ glyphs, stroke }: LettersNode, { font, code }: PdfFace, instance: FaceInstance): void {
    const { unitsPerEm } = instance;
    this.doc.page.fonts[font.id] = font.ref();
    const out = [`BT /${font.id} 1 Tf ${stroke ? 2 : 0} Tr`];
    for (const word of glyphWordsOf(glyphs)) {
      const coded = word.map(({ glyphId, matrix, shows }) => ({ matrix, shows, ...code(glyphId, shows) }));
      const plain = coded.every(({ means, shows }) => means === shows) && (runsLeft(word) || isTight(word, instance));
      if (!plain) out.push(`/Span <</ActualText <feff${utf16(wordsShown(word))}>>> BDC`);
      for (const { matrix, code: hex } of coded) out.push(`${matrixOf(enlarged(matrix, unitsPerEm, unitsPerEm))} Tm <${hex}> Tj`);
      if (!plain) out.push('EMC');
    }
    this.doc.addContent(`${out.join('\n')}\nET`);
  }

  /** Characters without ink over letters. */
  private words(group: GroupNode, { faces, visible }: PaintContext): void {
    const letters = pdfLettersIn(group, faces);
    const rooms = roomsOf(letters);
    const page = grown(visible.seen, onEverySide(OFF_PAGE));
    const out = ['BT 3 Tr'];
    let set = '';
    letters.forEach((letter, i) => {
      const { e, f } = letter.matrix;
      if (!touches({ leftPt: e, topPt: f, rightPt: e + 1, bottomPt: f + 1 }, page)) return;
      const { font, code } = this.layer.character(letter.text);
      if (font !== set) out.push(`/${font} 1 Tf`);
      set = font;
      const matrix = enlarged(letter.matrix, rooms[i] ?? letter.advance, letter.unitsPerEm);
      out.push(`${matrixOf(matrix)} Tm <${code.toString(16).padStart(2, '0')}> Tj`);
    });
    if (out.length > 1) this.doc.addContent(`${out.join('\n')}\nET`);
  }

  private fill(fill: Fill): void {
    if (typeof fill === 'string') this.doc.fillColor(fill);
    else this.doc.fillColor(this.doc.linearGradient(fill.x1, fill.y1, fill.x2, fill.y2).stop(0, fill.from).stop(1, fill.to));
  }

  private stroke({ colour, widthPt, join }: Stroke): void {
    this.doc.strokeColor(colour).lineWidth(widthPt).lineJoin(join).miterLimit(4);
  }

  private map({ a, b, c, d, e, f }: Matrix): void {
    this.doc.transform(a, b, c, d, e, f);
  }

  private isolated(paint: () => void): void {
    this.doc.save();
    paint();
    this.doc.restore();
  }
}

/** From a space of 1 to the page: as wide and as high as so many units of the font. */
const enlarged = ({ a, b, c, d, e, f }: Matrix, width: number, height: number): Matrix => ({ a: a * width, b: b * width, c: c * height, d: d * height, e, f });
