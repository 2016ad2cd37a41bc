/** Sheets as pages of one PDF (PDF 1.7, ISO 32000-1): vector, words that can be selected, the boxes printers go by. */
import PDFDocument from 'pdfkit';
import { type Page, pageOf } from '../../drawing/page';
import { type DocumentInfo, type PdfOptions, type SheetMaterial, pageLayout, sheetVisible } from '../../formats';
import type { Box } from '../../setting';
import { type Inner, innerOf } from './inner';
import { pdfRectangle } from './operators';
import { Painter } from './painter';
import { placeable } from './pictures';

/** When a document was made is not said: the same sheets give the same file, to the byte. */
const NO_DATE = new Date(0);

/** Writes sheets as a document, a page each. */
export async function writePdf(sheets: readonly SheetMaterial[], { title, language }: DocumentInfo, options: PdfOptions): Promise<Uint8Array> {
  const doc = new PDFDocument({
    autoFirstPage: false,
    // None is taken up before one is wanted.
    font: '',
    pdfVersion: '1.7',
    info: { Title: title, Creator: 'Jentrix', Producer: 'Jentrix', CreationDate: NO_DATE },
    displayTitle: true,
    ...(language === undefined ? {} : { lang: language }),
  });
  const chunks: Buffer[] = [];
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  const ended = new Promise<void>((resolve, reject) => doc.on('end', resolve).on('error', reject));
  const inner = innerOf(doc);
  delete doc.info.CreationDate;
  inner.endMetadata = () => undefined;
  const painter = new Painter(inner, options);
  await painter.prepare(sheets.map(({ drawing: { blocks }, faces }) => ({ blocks, faces })));
  for (const { drawing, faces, pictures } of sheets) {
    const page = pageOf(drawing, pageLayout(options));
    doc.addPage({ size: [page.widthPt, page.heightPt], margin: 0 });
    doc.outline.addItem(drawing.name);
    stateBoxes(inner, page);
    const visible = sheetVisible(page);
    const place = { faces, pictures: await placeable(page, pictures, options.ppi), visible, shadow: false };
    doc.save();
    inner.addContent(`${pdfRectangle(page.bleed)} W n`);
    painter.paint(page.ground, place);
    for (const block of page.blocks) painter.block(block, place);
    doc.restore();
    painter.paint(page.marks, place);
  }
  painter.end();
  doc.end();
  await ended;
  return Buffer.concat(chunks);
}

/** Where the page is cut, and what is printed (section 14.11.2): y up from the foot of the page. */
function stateBoxes({ page: { dictionary } }: Inner, { heightPt, trim, bleed }: Page): void {
  const stated = ({ leftPt, topPt, rightPt, bottomPt }: Box): number[] => [leftPt, heightPt - bottomPt, rightPt, heightPt - topPt];
  dictionary.data['TrimBox'] = stated(trim);
  dictionary.data['BleedBox'] = stated(bleed);
}
