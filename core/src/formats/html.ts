/**
 * A web page that sets a sheet the same in a browser: words as text, letters where they are drawn by `letter-spacing`, with an element of
 * their own only where a gap departs from its line (CSS Text 3, CSS Fonts 4). Baselines stand exactly, whatever a browser makes of a
 * font's heights: each line is aligned to the foot of an empty box.
 */
import type { BlockDrawing, DrawingNode, Gradient, GlyphNode, GroupNode, LettersNode, RuleNode, SheetDrawing } from '../drawing';
import type { Matrix } from '../setting';
import { type FaceInstance, printNumber } from '../face';
import type { FaceSet } from '../setting';
import { fromPoints } from '../units';
import type { EmbeddedFonts } from './format';
import { escapeXml } from './xml';

export interface HtmlOptions {
  /** Sizes follow the width of what the page stands in. */
  fluid: boolean;
}

/** A page in its parts. */
export interface HtmlParts {
  css: string;
  body: string;
}

const DIGITS = 4;

/** A letter on its line. */
interface HtmlLetter {
  text: string;
  at: number;
  node: LettersNode;
  instance: FaceInstance;
  /** In points. */
  x: number;
  y: number;
  /** How far a browser takes the pen without kerning, in points. */
  advance: number;
  /** Its own map where it is turned, scaled or shifted: from font units. */
  odd: GlyphNode['matrix'] | undefined;
}

/** Everything a page is written from. */
interface HtmlPage {
  drawing: SheetDrawing;
  faces: FaceSet;
  fonts: EmbeddedFonts;
  length: (pt: number) => string;
  /** CSS classes of letters, by their style. */
  classes: Map<string, string>;
}

export function htmlParts(
  drawing: SheetDrawing,
  faces: FaceSet,
  pictures: ReadonlyMap<string, string>,
  fonts: EmbeddedFonts,
  { fluid }: HtmlOptions,
): HtmlParts {
  const length = (pt: number): string =>
    pt === 0 ? '0' : fluid ? `${printNumber((pt / drawing.widthPt) * 100, 5)}cqi` : `${printNumber(fromPoints(pt, 'px'), DIGITS)}px`;
  const page: HtmlPage = { drawing, faces, fonts, length, classes: new Map() };
  const blocks = drawing.blocks.map((block) => blockHtml(block, page));
  const size = fluid
    ? `width: 100%; aspect-ratio: ${printNumber(drawing.widthPt, DIGITS)} / ${printNumber(drawing.heightPt, DIGITS)};`
    : `width: ${length(drawing.widthPt)}; height: ${length(drawing.heightPt)};`;
  const css = [
    ...fonts.rules,
    ...(fluid ? ['.jx-frame { container-type: inline-size; }'] : []),
    `.jx-sheet { position: relative; overflow: hidden; ${size} ${groundCss(drawing, pictures)} }`,
    '.jx-block { position: absolute; inset: 0; margin: 0; pointer-events: none; }',
    '.jx-line, .jx-letter { position: absolute; white-space: pre; line-height: 0; pointer-events: auto; font-kerning: none; font-synthesis: none; text-rendering: geometricPrecision; }',
    '.jx-line::before, .jx-letter::before { content: ""; display: inline-block; height: var(--up); }',
    '.jx-letter { transform-origin: 0 var(--up); }',
    '.jx-tint { background-clip: text; -webkit-background-clip: text; background-repeat: no-repeat; }',
    '.jx-mark::after { content: attr(data-mark); }',
    '.jx-rule { position: absolute; }',
    ...[...page.classes].map(([rules, name]) => `.${name} { ${rules} }`),
  ].join('\n');
  const sheet = `<div class="jx-sheet">\n${blocks.filter(Boolean).join('\n')}\n</div>`;
  return { css, body: fluid ? `<div class="jx-frame">\n${sheet}\n</div>` : sheet };
}

/** A whole page. @param language of its words (BCP 47) */
export function writeHtml({ css, body }: HtmlParts, { title, language }: { title: string; language: string | undefined }): string {
  return `<!doctype html>
<html${language === undefined ? '' : ` lang="${escapeXml(language)}"`}>
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escapeXml(title)}</title>
<style>
body { margin: 0; }
${css.replaceAll('</', '<\\/')}
</style>
</head>
<body>
${body}
</body>
</html>
`;
}

/** The background under all blocks as CSS. */
function groundCss({ ground }: SheetDrawing, pictures: ReadonlyMap<string, string>): string {
  const rules = ground.flatMap((node): string[] => {
    if (node.kind === 'rectangle') {
      if (typeof node.fill === 'string') return [`background-color: ${node.fill};`];
      const { from, to, x1, y1, x2, y2 } = node.fill;
      return [`background-image: linear-gradient(${printNumber((Math.atan2(y2 - y1, x2 - x1) * 180) / Math.PI + 90, 3)}deg, ${from}, ${to});`];
    }
    const href = node.kind === 'picture' ? pictures.get(node.pictureId) : undefined;
    return node.kind === 'picture' && href !== undefined
      ? [`background-image: url("${href}"); background-position: center; background-repeat: no-repeat; background-size: ${node.fit};`]
      : [];
  });
  return rules.join(' ');
}

function blockHtml(block: BlockDrawing, page: HtmlPage): string {
  const { length } = page;
  const { letters, marks, rules } = contentsOf(block, page.faces);
  if (letters.length === 0 && rules.length === 0) return '';
  const { turn, move } = block;
  const steps = [
    ...(move ? [`translate(${length(move.xPt)}, ${length(move.yPt)})`] : []),
    ...(turn ? [`rotate(${printNumber(turn.degrees, DIGITS)}deg)`] : []),
  ];
  const origin = turn ? `; transform-origin: ${length(turn.xPt)} ${length(turn.yPt)}` : '';
  const turned = steps.length > 0 ? ` style="transform: ${steps.join(' ')}${origin}"` : '';
  const lines = htmlLinesOf(letters).map((line) => (line.some(({ odd }) => odd) ? line.map((letter) => oddHtml(letter, page)).join('') : lineHtml(line, page)));
  const language = letters[0]?.node.language;
  const attributes = `class="jx-block"${language === undefined ? '' : ` lang="${escapeXml(language)}"`}${turned}`;
  return `<p ${attributes}>${[...lines, ...marks.map((mark) => oddHtml(mark, page, true)), ...rules.map((rule) => ruleHtml(rule, page))].join('\n')}</p>`;
}

/** The letters of a block in the order of its words, without what is cast behind them; and its rules. */
function contentsOf(block: GroupNode, faces: FaceSet): { letters: HtmlLetter[]; marks: HtmlLetter[]; rules: { rule: RuleNode; node: LettersNode }[] } {
  const letters: HtmlLetter[] = [];
  const marks: HtmlLetter[] = [];
  const rules: { rule: RuleNode; node: LettersNode }[] = [];
  const walk = (node: DrawingNode): void => {
    if (node.kind === 'group') {
      if (!node.shadow) node.nodes.forEach(walk);
    } else if (node.kind === 'letters') {
      letters.push(...htmlLettersOf(node, faces));
      marks.push(...listMarksOf(node, faces));
      rules.push(...node.rules.map((rule) => ({ rule, node })));
    }
  };
  block.nodes.forEach(walk);
  return { letters, marks, rules };
}

/** The characters of list marks and ellipses, which are not among the words. */
const MARKS = Array.from('•…–0123456789.)');

/** The marks of lists, and ellipses. */
function listMarksOf(node: LettersNode, faces: FaceSet): HtmlLetter[] {
  const instance = faces.instance(node.style);
  return node.glyphs.flatMap(({ glyphId, matrix, pen, at }) => {
    const text = at === undefined ? MARKS.find((mark) => instance.nominalGlyph(mark.codePointAt(0) ?? 0) === glyphId) : undefined;
    return text === undefined ? [] : [{ text, at: -1, node, instance, x: pen.xPt, y: pen.yPt, advance: 0, odd: matrix }];
  });
}

function htmlLettersOf(node: LettersNode, faces: FaceSet): HtmlLetter[] {
  const instance = faces.instance(node.style);
  const found: HtmlLetter[] = [];
  for (const { glyphId, matrix, pen, at, shows } of node.glyphs) {
    const last = found[found.length - 1];
    const advance = instance.advance(glyphId) * matrix.a;
    if (last && shows === '' && at === last.at) {
      last.advance += advance;
      continue;
    }
    const em = node.style.sizePt / instance.unitsPerEm;
    const { a, b, c, d } = matrix;
    const even = Math.abs(b) < 1e-9 && Math.abs(c) < 1e-9 && Math.abs(a - em * node.style.scaleX) < 1e-9 && Math.abs(d + em) < 1e-9 && node.style.scaleX === 1;
    found.push({ text: shows, at: at ?? -1, node, instance, x: pen.xPt, y: pen.yPt, advance, odd: even ? undefined : matrix });
  }
  return found.filter(({ text }) => text !== '');
}

/**
 * Browsers round every advance a little: after so many letters the next word stands by itself again. No word is cut.
 */
const LETTERS_TOGETHER = 16;

/** Letters that follow each other on one baseline, not too many of them. */
function htmlLinesOf(letters: readonly HtmlLetter[]): HtmlLetter[][] {
  const lines: HtmlLetter[][] = [];
  for (const letter of letters) {
    const line = lines[lines.length - 1];
    const last = line?.[line.length - 1];
    const follows = last && Math.abs(last.y - letter.y) < 1e-6 && letter.at > last.at && letter.x >= last.x - last.node.style.sizePt;
    const goesOn = line && (line.length < LETTERS_TOGETHER || last?.text !== ' ');
    if (line && follows && goesOn) line.push(letter);
    else lines.push([letter]);
  }
  return lines;
}

/** Where lines are set: their foot box is this much higher than the largest type on them. */
const UP = 1.5;

function lineHtml(line: readonly HtmlLetter[], page: HtmlPage): string {
  const { length } = page;
  const [first] = line;
  if (!first) return '';
  const up = UP * Math.max(...line.map(({ node }) => node.style.sizePt));
  const spaced = line.map((letter, i) => ({ letter, milliem: spaceAfter(letter, line[i + 1]) }));
  // Behind the last nothing follows.
  const [before, last] = spaced.slice(-2);
  if (last) last.milliem = before?.milliem ?? 0;
  const tints = new Map(line.flatMap(({ node: { fill }, node }) => (typeof fill !== 'string' && tintOf(node) ? [[JSON.stringify(fill), fill] as const] : [])));
  const [tint, other] = tints.values();
  // Letters are cut out of a ground: of several the line has none, and its letters are of their first colours.
  const room = up / UP;
  const final = line[line.length - 1] ?? first;
  const ground =
    tint && !other
      ? tintCss(
          tint,
          { a: 1, b: 0, c: 0, d: 1, e: first.x - room, f: first.y - up },
          { width: final.x + final.advance - first.x + 2 * room, height: up + room },
          page,
        )
      : undefined;
  const parts: string[] = [];
  for (let i = 0; i < spaced.length;) {
    const node = spaced[i]?.letter.node;
    let end = i + 1;
    while (end < spaced.length && spaced[end]?.letter.node === node) end++;
    parts.push(runHtml(spaced.slice(i, end), page, ground !== undefined && node !== undefined && tintOf(node)));
    i = end;
  }
  const place = `left: ${length(first.x - (ground ? room : 0))}; top: ${length(first.y - up)}; --up: ${length(up)}`;
  const tinted = ground === undefined ? '' : `; padding: 0 ${length(room)} ${length(room)}; ${ground}`;
  return `<span class="jx-line${ground ? ' jx-tint' : ''}" style="${place}${tinted}">${parts.join('')}</span>`;
}

/** Whether letters may be cut out of a gradient: what is cast behind them would lie on it. */
const tintOf = ({ fill, style }: LettersNode): boolean => typeof fill !== 'string' && !style.shadow;

/**
 * A gradient of the sheet as the ground of a box: a linear gradient at the angle it has there, its colours where they are on the sheet.
 * @param toSheet from the box's points to the sheet's
 */
function tintCss({ from, to, x1, y1, x2, y2 }: Gradient, toSheet: Matrix, { width, height }: { width: number; height: number }, { length }: HtmlPage): string {
  const { a, b, c, d, e, f } = toSheet;
  const [dx, dy] = [x2 - x1, y2 - y1];
  const whole = dx * dx + dy * dy || 1;
  // How far a point of the box is on the way from the one colour to the other: a linear function of it.
  const [gx, gy, start] = [(a * dx + b * dy) / whole, (c * dx + d * dy) / whole, ((e - x1) * dx + (f - y1) * dy) / whole];
  const steep = Math.hypot(gx, gy) || 1;
  const [ux, uy] = [gx / steep, gy / steep];
  // CSS measures from where a perpendicular meets the corner (CSS Images 3, section 3.1.1).
  const behind = (width / 2) * ux + (height / 2) * uy - (Math.abs(width * ux) + Math.abs(height * uy)) / 2;
  const at = (share: number): string => length((share - start) / steep - behind);
  const angle = printNumber((Math.atan2(ux, -uy) * 180) / Math.PI, 3);
  return `background-image: linear-gradient(${angle}deg, ${from} ${at(0)}, ${to} ${at(1)}); background-size: ${length(width)} ${length(height)}`;
}

/** The space added after a letter, in 1/1000 em of its size. */
function spaceAfter({ x, advance, node }: HtmlLetter, next: HtmlLetter | undefined): number {
  const extra = next ? next.x - x - advance : 0;
  return Math.round((extra / node.style.sizePt) * 1e5) / 100;
}

interface Spaced {
  letter: HtmlLetter;
  milliem: number;
}

/** Letters of one look; those whose space departs from most of the others’ stand in an element of their own. */
function runHtml(run: readonly Spaced[], page: HtmlPage, tinted: boolean): string {
  const [first] = run;
  if (!first) return '';
  const usual = mostCommon(run.slice(0, -1).map(({ milliem }) => milliem));
  const name = classOf(letterCss(first.letter, page, tinted) + (usual === 0 ? '' : ` letter-spacing: ${em(usual)};`), page);
  const out: string[] = [];
  for (let i = 0; i < run.length;) {
    const { milliem, letter } = run[i] as Spaced;
    let end = i + 1;
    while (end < run.length && run[end]?.milliem === milliem && !isJoined(letter)) end++;
    const text = escapeXml(
      run
        .slice(i, end)
        .map((one) => one.letter.text)
        .join(''),
    );
    if (milliem === usual) out.push(text);
    // A ligature stays whole: its room is outside of it.
    else if (isJoined(letter)) out.push(`<span style="letter-spacing: 0; margin-right: ${em(milliem)}">${text}</span>`);
    else out.push(`<span style="letter-spacing: ${em(milliem)}">${text}</span>`);
    i = end;
  }
  return `<span class="${name}">${out.join('')}</span>`;
}

const em = (milliem: number): string => `${printNumber(milliem / 1000, 5)}em`;
const isJoined = ({ text }: HtmlLetter): boolean => Array.from(text).length > 1;

function mostCommon(values: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort(([a, m], [b, n]) => n - m || Math.abs(a) - Math.abs(b))[0]?.[0] ?? 0;
}

/** A letter that is turned, scaled or raised stands by itself. */
function oddHtml(letter: HtmlLetter, page: HtmlPage, silent = false): string {
  const { length } = page;
  const { sizePt } = letter.node.style;
  const up = UP * sizePt;
  const unit = sizePt / letter.instance.unitsPerEm;
  const { a, b, c, d } = letter.odd ?? { a: unit, b: 0, c: 0, d: -unit };
  const matrix = [a / unit, b / unit, -c / unit, -d / unit].map((value) => printNumber(value, 6)).join(', ');
  const transform = matrix === '1, 0, 0, 1' ? '' : ` transform: matrix(${matrix}, 0, 0);`;
  const tinted = tintOf(letter.node) && !silent;
  const name = `${classOf(letterCss(letter, page, tinted), page)}${tinted ? ' jx-tint' : ''}`;
  // Its own point is the pen, which lies a room to the right of its box and below its top.
  const room = tinted ? sizePt : 0;
  const [ma, mb, mc, md] = [a / unit, b / unit, -c / unit, -d / unit];
  const toSheet = { a: ma, b: mb, c: mc, d: md, e: letter.x - ma * room - mc * up, f: letter.y - mb * room - md * up };
  const ground = tinted
    ? ` padding: 0 ${length(room)} ${length(room)}; transform-origin: ${length(room)} var(--up); ${tintCss(letter.node.fill as Gradient, toSheet, { width: letter.advance + 2 * room, height: up + room }, page)};`
    : '';
  const place = `left: ${length(letter.x - room)}; top: ${length(letter.y - up)}; --up: ${length(up)};${transform}${ground}`;
  // What is not among the words is shown, but neither read nor copied.
  if (silent) return `<span class="jx-letter jx-mark ${name}" data-mark="${escapeXml(letter.text)}" style="${place}"></span>`;
  return `<span class="jx-letter ${name}" style="${place}">${escapeXml(letter.text)}</span>`;
}

function ruleHtml({ rule: { box, matrix }, node }: { rule: RuleNode; node: LettersNode }, { length }: HtmlPage): string {
  const { leftPt, topPt, rightPt, bottomPt } = box;
  const parts = matrix && [matrix.a, matrix.b, matrix.c, matrix.d].map((value) => printNumber(value, 6)).join(', ');
  const turned = parts ? ` transform: matrix(${parts}, 0, 0); transform-origin: 0 0;` : '';
  const [x, y] = matrix ? [matrix.a * leftPt + matrix.c * topPt + matrix.e, matrix.b * leftPt + matrix.d * topPt + matrix.f] : [leftPt, topPt];
  const colour = typeof node.fill === 'string' ? node.fill : node.fill.from;
  const size = `width: ${length(rightPt - leftPt)}; height: ${length(bottomPt - topPt)};`;
  return `<span class="jx-rule" style="left: ${length(x)}; top: ${length(y)}; ${size} background: ${colour};${turned}"></span>`;
}

/** The CSS of letters. @param tinted where they are cut out of a ground */
function letterCss({ node, instance }: HtmlLetter, { fonts, length }: HtmlPage, tinted: boolean): string {
  const { style, fill, stroke } = node;
  const { face } = instance;
  const features = Object.entries(style.features);
  const axes = face.axes.map(({ tag, min, max, default: usual }) => `"${tag}" ${Math.min(max, Math.max(min, style.axes[tag] ?? usual))}`);
  const rules = [
    `font-family: ${fonts.familyOf(instance)};`,
    `font-size: ${length(style.sizePt)};`,
    // A file of its own says nothing of weights.
    fonts.embeds(instance) ? '' : `font-weight: ${style.axes['wght'] ?? face.posture.weight};${face.posture.italic ? ' font-style: italic;' : ''}`,
    `color: ${tinted ? 'transparent' : typeof fill === 'string' ? fill : fill.from};`,
    features.length > 0 ? `font-feature-settings: ${features.map(([tag, value]) => `"${tag}" ${value}`).join(', ')};` : '',
    axes.length > 0 ? `font-variation-settings: ${axes.join(', ')}; font-optical-sizing: none;` : '',
    style.opacity < 1 ? `opacity: ${printNumber(style.opacity, DIGITS)};` : '',
    stroke ? `-webkit-text-stroke: ${length(stroke.widthPt)} ${stroke.colour}; paint-order: fill stroke;` : '',
    style.shadow ? `text-shadow: ${em(style.shadow.xMilliem)} ${em(style.shadow.yMilliem)} ${em(style.shadow.blurMilliem)} ${style.shadow.colour};` : '',
  ];
  return rules.filter(Boolean).join(' ');
}

function classOf(rules: string, { classes }: HtmlPage): string {
  let name = classes.get(rules);
  if (name === undefined) classes.set(rules, (name = `jx-${classes.size + 1}`));
  return name;
}
