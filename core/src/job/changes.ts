/** What an edit changed, in a sentence: told to people who do not see the sheet. */
import { type LengthUnit, fromPoints, printLeading, printSigned, printValue } from '../units';
import type { Breaking } from './fit-schema';
import { letterName } from './letter-names';
import { sayPath } from './path';
import type { Block, Job } from './schema';
import { type StyleProperty, STYLE_PROPERTIES, type StyleKey, styleName } from './style';

/**
 * What differs between two states of a job, the nearest thing first; empty where only words did (those are read as they are typed)
 * or nothing that can be said. @param names how a face is called.
 */
export function sayChange(before: Job, after: Job, names: (faceId: string) => string = (id) => id): string {
  if (before === after) return '';
  if (before.title !== after.title) return `The job is called ${after.title}.`;
  if (before.kind !== after.kind) return `The job is for: ${after.kind}.`;
  if (before.language !== after.language) return `Language of the job: ${after.language ?? 'none'}.`;
  if (before.sheets.length !== after.sheets.length) return `${after.sheets.length} ${after.sheets.length === 1 ? 'sheet' : 'sheets'}.`;
  if (before.pairs !== after.pairs && before.sheets === after.sheets) return `${after.pairs.length} rules for pairs.`;
  for (const [i, sheet] of after.sheets.entries()) {
    const old = before.sheets[i];
    if (!old || old === sheet) continue;
    if (old.widthPt !== sheet.widthPt || old.heightPt !== sheet.heightPt || old.unit !== sheet.unit)
      return `Sheet ${length(sheet.widthPt, sheet.unit)} by ${length(sheet.heightPt, sheet.unit)}.`;
    const count = sheet.blocks.length - old.blocks.length;
    if (count !== 0) return blocksChanged(old.blocks, sheet.blocks);
    const changed = sheet.blocks.flatMap((block) => {
      const was = old.blocks.find(({ id }) => id === block.id);
      return was && was !== block ? [{ was, block }] : [];
    });
    const [first] = changed;
    if (!first) return old.blocks === sheet.blocks ? 'The sheet has changed.' : 'Another order of blocks.';
    const said = blockChange(first.was, first.block, sheet.unit, names);
    return changed.length > 1 && said ? `${changed.length} blocks: ${said}` : said;
  }
  return '';
}

/** Ways to find the ends of lines, as people read them. */
export const BREAKING_NAMES: Readonly<Record<Breaking['way'], string>> = { greedy: 'as full as they go', even: 'evenly', total: 'for even spaces' };

const length = (pt: number, unit: LengthUnit): string => `${printValue(fromPoints(pt, unit), 1)} ${unit}`;
const short = (words: string): string => words.replaceAll('\n', ' ').slice(0, 40);
const differ = (a: unknown, b: unknown): boolean => a !== b && JSON.stringify(a) !== JSON.stringify(b);

function blocksChanged(before: readonly Block[], after: readonly Block[]): string {
  const had = new Set(before.map(({ id }) => id));
  const has = new Set(after.map(({ id }) => id));
  const [added] = after.filter(({ id }) => !had.has(id));
  const [gone] = before.filter(({ id }) => !has.has(id));
  return [added && `Added: ${short(added.words)}.`, gone && `Taken off: ${short(gone.words)}.`].filter(Boolean).join(' ');
}

function blockChange(was: Block, block: Block, unit: LengthUnit, names: (faceId: string) => string): string {
  const parts: string[] = [];
  for (const key of Object.keys(block.style) as StyleKey[]) {
    const [old, value] = [firstOf(was, key), firstOf(block, key)];
    if (differ(was.style[key], block.style[key])) parts.push(`${styleName(key)} ${printed(key, block.style[key], names)}`);
    else if (differ(old, value)) parts.push(`${styleName(key)} of some letters ${value === undefined ? 'as the block' : printed(key, value, names)}`);
  }
  if (differ(was.leading, block.leading)) parts.push(`leading ${printLeading(block.leading)}`);
  if (differ(was.lineLeading, block.lineLeading)) parts.push('leading of single lines');
  if (was.language !== block.language) parts.push(`language ${block.language ?? 'of the job'}`);
  if (was.align !== block.align) parts.push(`aligned ${block.align}`);
  if (was.rotationDeg !== block.rotationDeg) parts.push(`rotated ${printValue(block.rotationDeg, 1)} degrees`);
  if (differ(was.path, block.path)) parts.push(sayPath(block.path));
  if (differ(was.ends, block.ends)) parts.push(block.ends ? `ends of ${block.ends.of} ${printValue(block.ends.ratio * 100)} %` : 'ends as the others');
  if (differ(was.fit, block.fit)) parts.push(block.fit ? 'fitted' : 'no longer fitted');
  if (differ(was.breaking, block.breaking)) parts.push(`lines broken ${BREAKING_NAMES[block.breaking.way]}`);
  if (differ(was.justify, block.justify)) parts.push('justified otherwise');
  if (differ(was.edges, block.edges)) parts.push(block.edges ? 'edges aligned by eye' : 'edges by side bearings');
  if (differ(was.lineIndents, block.lineIndents)) parts.push('indents of single lines');
  if (differ(was.tightened, block.tightened) && was.words === block.words)
    parts.push(block.tightened.length > 0 ? `tightened by ${block.tightened.map(({ milliem }) => printSigned(milliem)).join(', ')}` : 'no longer tightened');
  if (was.locked !== block.locked) parts.push(block.locked ? 'locked' : 'unlocked');
  if (differ(was.frame, block.frame)) parts.push(frameChange(was, block, unit));
  if (differ(was.hand, block.hand) && was.words === block.words) parts.push(handChange(was, block));
  if (was.intended.length !== block.intended.length) parts.push(block.intended.length > was.intended.length ? 'as intended: silenced' : 'speaks again');
  const said = parts.join(', ');
  return said && `${said.charAt(0).toUpperCase()}${said.slice(1)}.`;
}

/** What runs say of a property, when any does. */
const firstOf = ({ runs }: Block, key: StyleKey): unknown => runs.find(({ style }) => style[key] !== undefined)?.style[key];

function printed(key: StyleKey, value: unknown, names: (faceId: string) => string): string {
  if (key === 'faceId') return names(String(value));
  const { show } = STYLE_PROPERTIES[key] as StyleProperty;
  if (show) return show(value);
  if (typeof value === 'number') return printValue(value);
  if (typeof value === 'string') return value;
  return value === null || value === false ? 'off' : 'on';
}

function frameChange({ frame: old }: Block, { frame }: Block, unit: LengthUnit): string {
  const moved = `at ${length(frame.xPt, unit)}, ${length(frame.yPt, unit)}`;
  return old.widthPt === frame.widthPt && old.heightPt === frame.heightPt ? moved : `${length(frame.widthPt, unit)} wide, ${moved}`;
}

function handChange(was: Block, block: Block): string {
  const old = new Map(was.hand.map(({ at, milliem }) => [at, milliem]));
  const now = new Map(block.hand.map(({ at, milliem }) => [at, milliem]));
  const changed = [...new Set([...old.keys(), ...now.keys()])].filter((at) => old.get(at) !== now.get(at));
  const [at = 0] = changed;
  if (changed.length !== 1) return `${changed.length} gaps by hand`;
  const pair = [block.words.charAt(at - 1), block.words.charAt(at)].map(letterName).join(' ');
  const value = now.get(at);
  return `gap ${pair}, by hand ${value === undefined ? 'nothing' : printSigned(value)}`;
}
