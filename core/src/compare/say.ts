/** What an edit changed, in a sentence: told to people who do not see the sheet. */
import { type LengthUnit, printSigned } from '../units';
import { BLOCK_ASPECTS, SHEET_ASPECTS, changedAspects, differ, printed } from './aspects';
import { inShort } from './in-short';
import { type Block, type Job, type StyleKey, letterName, styleName } from '../job';

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
    const [aspect] = changedAspects(SHEET_ASPECTS, old, sheet);
    if (aspect) return sentence(`${aspect.name} ${aspect.show(sheet, sheet.unit)}`);
    const count = sheet.blocks.length - old.blocks.length;
    if (count !== 0) return blocksChanged(old.blocks, sheet.blocks);
    const changed = sheet.blocks.flatMap((block) => {
      const was = old.blocks.find(({ id }) => id === block.id);
      return was && was !== block ? [{ was, block }] : [];
    });
    const [first] = changed;
    if (!first) return 'Another order of blocks.';
    const said = blockChange(first.was, first.block, sheet.unit, names);
    return changed.length > 1 && said ? `${changed.length} blocks: ${said}` : said;
  }
  return '';
}

function blocksChanged(before: readonly Block[], after: readonly Block[]): string {
  const had = new Set(before.map(({ id }) => id));
  const has = new Set(after.map(({ id }) => id));
  const [added] = after.filter(({ id }) => !had.has(id));
  const [gone] = before.filter(({ id }) => !has.has(id));
  return [added && `Added: ${inShort(added.words)}.`, gone && `Taken off: ${inShort(gone.words)}.`].filter(Boolean).join(' ');
}

const sentence = (said: string): string => said && `${said.charAt(0).toUpperCase()}${said.slice(1)}.`;

/** Aspects that stand at places in the words. */
const ANCHORED = new Set(['line-leading', 'line-indents', 'tightened', 'intended']);

function blockChange(was: Block, block: Block, unit: LengthUnit, names: (faceId: string) => string): string {
  const parts: string[] = [];
  for (const key of Object.keys(block.style) as StyleKey[]) {
    const [old, value] = [firstOf(was, key), firstOf(block, key)];
    if (differ(was.style[key], block.style[key])) parts.push(`${styleName(key)} ${printed(key, block.style[key], names)}`);
    else if (differ(old, value)) parts.push(`${styleName(key)} of some letters ${value === undefined ? 'as the block' : printed(key, value, names)}`);
  }
  for (const { name, show, become, id } of changedAspects(BLOCK_ASPECTS, was, block)) {
    // What is anchored in the words moves with them.
    if (was.words !== block.words && ANCHORED.has(id)) continue;
    parts.push(become ? become(was, block) : `${name} ${show(block, unit)}`);
  }
  if (differ(was.hand, block.hand) && was.words === block.words) parts.push(handChange(was, block));
  return sentence(parts.join(', '));
}

/** What runs say of a property, when any does. */
const firstOf = ({ runs }: Block, key: StyleKey): unknown => runs.find(({ style }) => style[key] !== undefined)?.style[key];

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
