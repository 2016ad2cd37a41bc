/** A sentence that says what an edit changed: told to people who do not see the sheet. */
import { type LengthUnit, printSigned } from '../units';
import { BLOCK_ASPECTS, SHEET_ASPECTS, changedAspects, differ, printedValue } from './aspects';
import { capitalised, inShort } from './in-short';
import { type Block, type Job, type StyleKey, letterName, styleName } from '../job';
import { splicesBetween } from '../wording';

/** How single letters are told: by their names, for people who don’t see them, or as they are. */
type Letters = 'spoken' | 'seen';

/**
 * The differences between two states of a job, the nearest first; empty where only words changed (those are read as they are typed)
 * or nothing that can be said. @param names how a face is called. @param letters whether single letters are named or shown
 */
export function sayChange(before: Job, after: Job, names: (faceId: string) => string = (id) => id, letters: Letters = 'spoken'): string {
  if (before === after) return '';
  if (before.title !== after.title) return `Title: ${after.title}.`;
  if (before.kind !== after.kind) return `Kind of work: ${after.kind}.`;
  if (before.language !== after.language) return `Language of the job: ${after.language ?? 'none'}.`;
  if (before.sheets.length !== after.sheets.length) return `${after.sheets.length} ${after.sheets.length === 1 ? 'sheet' : 'sheets'}.`;
  if (before.pairs !== after.pairs && before.sheets === after.sheets) return `${after.pairs.length} ${after.pairs.length === 1 ? 'rule' : 'rules'} for pairs.`;
  for (const [i, sheet] of after.sheets.entries()) {
    const old = before.sheets[i];
    if (!old || !differ(old, sheet)) continue;
    const [aspect] = changedAspects(SHEET_ASPECTS, old, sheet);
    if (aspect) return sentence(`${aspect.name} ${aspect.show(sheet, sheet.unit)}`);
    const count = sheet.blocks.length - old.blocks.length;
    if (count !== 0) return blocksChanged(old.blocks, sheet.blocks);
    const changed = sheet.blocks.flatMap((block) => {
      const was = old.blocks.find(({ id }) => id === block.id);
      return was && differ(was, block) ? [{ was, block }] : [];
    });
    const [first] = changed;
    if (!first) return 'Order of blocks changed.';
    const said = blockChange(first.was, first.block, sheet.unit, { names, letters });
    return changed.length > 1 && said ? `${changed.length} blocks: ${said}` : said;
  }
  return '';
}

/**
 * The name of a step from one state of a job to another: “tracking −10”, “typing “nights””.
 * @param names how a face is called
 */
export function nameStep(before: Job, after: Job, names?: (faceId: string) => string): string {
  const said = sayChange(before, after, names, 'seen').replace(/\.$/, '');
  if (said) return `${said.charAt(0).toLowerCase()}${said.slice(1)}`;
  const was = wordsByBlock(before);
  for (const [id, words] of wordsByBlock(after)) {
    const old = was.get(id);
    if (old === undefined || old === words) continue;
    // From the first place where they differ to the last: letters that happen to be alike in between were typed too.
    const splices = splicesBetween(old, words);
    const [start, end] = [splices[splices.length - 1]?.start ?? 0, splices[0]?.end ?? 0];
    const typed = words.slice(start, words.length - (old.length - end)).trim();
    return typed ? `typing “${inShort(typed, 20)}”` : `deleting “${inShort(old.slice(start, end), 20)}”`;
  }
  return 'the last change';
}

/** The words of every block. */
const wordsByBlock = ({ sheets }: Job): ReadonlyMap<string, string> => new Map(sheets.flatMap(({ blocks }) => blocks.map(({ id, words }) => [id, words])));

function blocksChanged(before: readonly Block[], after: readonly Block[]): string {
  const had = new Set(before.map(({ id }) => id));
  const has = new Set(after.map(({ id }) => id));
  const [added] = after.filter(({ id }) => !had.has(id));
  const [gone] = before.filter(({ id }) => !has.has(id));
  return [added && `Added: ${inShort(added.words)}.`, gone && `Deleted: ${inShort(gone.words)}.`].filter(Boolean).join(' ');
}

const sentence = (said: string): string => said && `${capitalised(said)}.`;

/** Aspects that stand at places in the words. */
const ANCHORED = new Set(['line-leading', 'line-indents', 'tightened', 'intended']);

function blockChange(was: Block, block: Block, unit: LengthUnit, { names, letters }: { names: (faceId: string) => string; letters: Letters }): string {
  const parts: string[] = [];
  for (const key of Object.keys(block.style) as StyleKey[]) {
    const [old, value] = [firstOf(was, key), firstOf(block, key)];
    if (differ(was.style[key], block.style[key])) parts.push(`${styleName(key)} ${printedValue(key, block.style[key], names)}`);
    else if (differ(old, value)) parts.push(`${styleName(key)} of some letters ${value === undefined ? 'as in the block' : printedValue(key, value, names)}`);
  }
  for (const { name, show, become, id } of changedAspects(BLOCK_ASPECTS, was, block)) {
    // What is anchored in the words moves with them.
    if (was.words !== block.words && ANCHORED.has(id)) continue;
    parts.push(become ? become(was, block) : `${name} ${show(block, unit)}`);
  }
  if (differ(was.hand, block.hand) && was.words === block.words) parts.push(handChange(was, block, letters));
  return sentence(parts.join(', '));
}

/** The first value that runs state of a property, when any does. */
const firstOf = ({ runs }: Block, key: StyleKey): unknown => runs.find(({ style }) => style[key] !== undefined)?.style[key];

function handChange(was: Block, block: Block, letters: Letters): string {
  const old = new Map(was.hand.map(({ at, milliem }) => [at, milliem]));
  const now = new Map(block.hand.map(({ at, milliem }) => [at, milliem]));
  const changed = [...new Set([...old.keys(), ...now.keys()])].filter((at) => old.get(at) !== now.get(at));
  const [at = 0] = changed;
  if (changed.length !== 1) return `${changed.length} gaps adjusted`;
  const pair = [block.words.charAt(at - 1), block.words.charAt(at)];
  const value = now.get(at);
  if (letters === 'seen') return `kerning of “${pair.join('')}” ${value === undefined ? 'reset' : printSigned(value)}`;
  return `gap ${pair.map(letterName).join(' ')}, manual ${value === undefined ? 'none' : printSigned(value)}`;
}
