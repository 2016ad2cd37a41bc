/** An SVG as a job: its text as blocks, everything else as the picture underneath. */
import { type Block, JOB_VERSION, type Job, LIMITS, createSheet } from '../job';
import type { FaceSet } from '../setting';
import { type TakenText, takeText } from './blocks';
import type { Notes, TextReading } from './look';
import { pathPartOf, takeOnPath } from './on-path';
import { Styles } from './css';
import { type SvgElement, elementsOf, readSvg, replaced } from './document';
import { FaceFinder } from './faces';
import { canvasOf } from './geometry';

/** The result of reading an SVG. */
export interface TakenSvg {
  job: Job;
  /** The drawing without the text that was imported; undefined where nothing of it shows. */
  picture: string | undefined;
  notes: Notes;
  /** How far a letter stands from where it stood, at most, in points. */
  offPt: number;
}

/** Elements that show something by themselves. */
const DRAWN = new Set(['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon', 'image', 'use', 'text', 'foreignObject']);
/** Elements whose children show only where they are referred to. */
const STORED = new Set(['defs', 'symbol', 'clipPath', 'mask', 'pattern', 'marker', 'linearGradient', 'radialGradient', 'filter']);

/** The texts of a drawing, imported. @param paths whether those on paths are. @throws SvgError */
export function textsOf(root: SvgElement, faces: FaceSet, paths = false): { texts: TakenText[]; reading: TextReading } {
  const notes: Notes = { faces: new Map(), left: [] };
  const reading: TextReading = { styles: new Styles(root), canvas: canvasOf(root), faces, finder: new FaceFinder(faces), gradients: firstStops(root), notes };
  const texts = [...elementsOf(root)]
    .filter(({ name }) => name === 'text')
    .flatMap((element) => {
      const part = paths ? pathPartOf(element) : undefined;
      const taken = part ? takeOnPath(element, part, reading) : takeText(element, reading);
      if (typeof taken !== 'string') return taken ?? [];
      notes.left.push({ words: wordsIn(part), why: taken });
      return [];
    });
  return { texts, reading };
}

/**
 * Takes an SVG in.
 * @param newId gives a fresh identifier at every call. @param pictureId what the picture will be called, where there is one
 * @throws SvgError
 */
export function takeSvg(source: string, faces: FaceSet, { title, newId, pictureId }: { title: string; newId: () => string; pictureId: string }): TakenSvg {
  const root = readSvg(source);
  const { texts, reading } = textsOf(root, faces, true);
  const { canvas, notes } = reading;
  const blocks = texts.flatMap((text) => text.blocks).slice(0, LIMITS.blocks);
  const taken = texts.map(({ element: { start, end } }) => ({ start, end, text: '' }));
  const shows = [...shown(root)].some((element) => DRAWN.has(element.name) && !texts.some((text) => text.element === element));
  const sheet = createSheet(newId(), nameOf(root) ?? 'Sheet 1', canvas.widthPt, canvas.heightPt, 'px');
  const ids = new Set<string>();
  const named = blocks.map(({ block }, i): Block => {
    const own = texts.find((text) => text.blocks[0]?.block === block)?.element.attributes['id'];
    const id = own !== undefined && own.length <= 80 && own !== '' && !ids.has(own) ? own : newId();
    ids.add(id);
    return { ...block, id: id || `b${i}` };
  });
  const background = shows ? ({ kind: 'picture', pictureId, fit: 'contain', colour: '#ffffff' } as const) : sheet.background;
  return {
    job: {
      format: 'jentrix.job',
      version: JOB_VERSION,
      title: nameOf(root) ?? title,
      kind: 'other',
      language: languageOf(root),
      pairs: [],
      sheets: [{ ...sheet, background, blocks: named }],
    },
    picture: shows ? replaced(source, taken) : undefined,
    notes,
    offPt: Math.max(0, ...blocks.map(({ offPt }) => offPt)),
  };
}

function* shown(element: SvgElement): Generator<SvgElement> {
  if (STORED.has(element.name)) return;
  yield element;
  for (const child of element.children) if (typeof child !== 'string') yield* shown(child);
}

const nameOf = (root: SvgElement): string | undefined => {
  const title = root.children.find((child): child is SvgElement => typeof child !== 'string' && child.name === 'title');
  const text =
    title?.children
      .filter((child) => typeof child === 'string')
      .join('')
      .trim() ?? '';
  return text === '' ? undefined : text.slice(0, 200);
};

const languageOf = ({ attributes }: SvgElement): string | null => {
  const tag = attributes['xml:lang'] ?? attributes['lang'];
  return tag !== undefined && /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(tag) ? tag : null;
};

/** The colour each gradient begins with. */
function firstStops(root: SvgElement): Map<string, string> {
  const found = new Map<string, string>();
  for (const { name, attributes, children } of elementsOf(root)) {
    if (!name.endsWith('Gradient') || attributes['id'] === undefined) continue;
    const stop = children.find((child): child is SvgElement => typeof child !== 'string' && child.name === 'stop');
    const colour = stop?.attributes['stop-color'] ?? /stop-color\s*:\s*([^;]+)/.exec(stop?.attributes['style'] ?? '')?.[1];
    if (colour !== undefined) found.set(attributes['id'], colour.trim());
  }
  return found;
}

const wordsIn = (element: SvgElement | undefined): string =>
  (element?.children ?? [])
    .map((child) => (typeof child === 'string' ? child : wordsIn(child)))
    .join('')
    .trim()
    .slice(0, 80);
