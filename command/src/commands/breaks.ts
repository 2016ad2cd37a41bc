/** `jentrix breaks`: how the lines of a block end, and the short last lines of a job. */
import { writeFileSync } from 'node:fs';
import { type LineFix, acceptFinding, shortLastLineIn, TRACKING_LIMITS } from '@jentrix/core/findings';
import { writeJobFile } from '@jentrix/core/formats';
import { ALIGNMENTS, BREAKINGS, type Block, type Job, RAG_SHAPES, loosen, resolveSheet, withBlockSettings } from '@jentrix/core/job';
import { editWords } from '@jentrix/core/wording';
import { divisions, withoutDivisions } from '@jentrix/core/hyphenation';
import { ragOf, setBlock, straightLines } from '@jentrix/core/setting';
import { printValue } from '@jentrix/core/units';
import { type Command, blockIn, jobIn, numberOf, oneOf } from '../command';
import { facesForJob } from '../fonts';
import { UsageError } from '../usage-error';

const KINDS: readonly LineFix['kind'][] = ['tighten', 'tie', 'even', 'smaller', 'wider'];

export const breaks: Command = {
  name: 'breaks',
  usage: [
    'JOB.json [--json] [--faces DIR]',
    'JOB.json -o OUT.json [--block ID] [--way greedy|even|total] [--shape even|widening|narrowing] [--align ALIGN] [--give N] [--widen PERCENT] [--last natural|full] [--hyphenate on|off] [--faces DIR]',
    'JOB.json -o OUT.json --fix KIND|best|back [--block ID] [--faces DIR]',
  ],
  says:
    'Lists the short last lines of a job with fixes, cheapest first. With -o: breaks a block’s lines another way, or fixes its short last lines ' +
    `by ${KINDS.join(', ')} or the cheapest of them; back resets what was tightened.`,
  example: 'programme.jentrix.json',
  options: ['output', 'block', 'way', 'shape', 'align', 'give', 'widen', 'last', 'hyphenate', 'fix', 'json', 'faces'],
  async run(values, files, { out }) {
    const job = jobIn(files);
    const { faces } = await facesForJob(job, values.faces);
    const shortLastLinesOf = (now: Job, of?: Block) =>
      now.sheets.flatMap((raw) => {
        const sheet = resolveSheet(now, raw);
        return sheet.blocks
          .filter(({ id }) => of === undefined || id === of.id)
          .flatMap((block) =>
            shortLastLineIn(block, setBlock(block, faces), faces, TRACKING_LIMITS).map((one) => ({ sheet: sheet.name, block: block.id, ...one })),
          );
      });
    if (values.output === undefined) {
      const found = shortLastLinesOf(job);
      if (values.json) out(`${JSON.stringify(found, null, 2)}\n`);
      else {
        for (const { sheet, block, words, fixes } of found)
          out(`${sheet}, ${block}: “${words}”\n${fixes.map(({ kind, says }) => `  ${kind}: ${says}\n`).join('') || '  no fix within the limits\n'}`);
        out(`${found.length} ${found.length === 1 ? 'short last line' : 'short last lines'}\n`);
      }
      return 0;
    }
    const { block } = blockIn(job, values.block);
    let next = job;
    if (values.fix === 'back') next = loosen(job, block.id);
    else if (values.fix !== undefined) {
      const kind = values.fix === 'best' ? undefined : oneOf('fix', values.fix, KINDS);
      const [first] = shortLastLinesOf(job, block);
      const fix = first?.fixes.find((one) => kind === undefined || one.kind === kind);
      if (!fix) throw new UsageError(first ? 'No fix of that kind works within the limits.' : 'The block has no short last line.');
      next = acceptFinding(job, { blockId: block.id, proposal: fix.proposal });
      out(`${fix.kind}: ${fix.says}\n`);
    }
    if (values.hyphenate !== undefined) {
      const { words, language } = blockIn(next, block.id).block;
      const how = oneOf('hyphenate', values.hyphenate, ['on', 'off'] as const);
      next = editWords(next, block.id, how === 'on' ? await divisions(words, language ?? job.language) : withoutDivisions(words));
    }
    const { breaking, justify } = blockIn(next, block.id).block;
    next = withBlockSettings(next, block.id, {
      breaking: {
        way: values.way === undefined ? breaking.way : oneOf('way', values.way, BREAKINGS),
        shape: values.shape === undefined ? breaking.shape : oneOf('shape', values.shape, RAG_SHAPES),
      },
      align: values.align === undefined ? block.align : oneOf('align', values.align, ALIGNMENTS),
      justify: {
        lettersMilliem: values.give === undefined ? justify.lettersMilliem : numberOf('give', values.give, 0, 200),
        width: values.widen === undefined ? justify.width : numberOf('widen', values.widen, 0, 2) / 100,
        last: values.last === undefined ? justify.last : oneOf('last', values.last, ['natural', 'full'] as const),
      },
    });
    writeFileSync(values.output, writeJobFile(next));
    const sheet = next.sheets.map((raw) => resolveSheet(next, raw)).find(({ blocks }) => blocks.some(({ id }) => id === block.id));
    const now = sheet?.blocks.find(({ id }) => id === block.id) ?? block;
    const setting = setBlock(now, faces);
    const { lines, spread, widest, narrowest } = ragOf(now, setting);
    for (const { start, visibleEnd, widthPt } of straightLines(setting)) out(`  ${printValue(widthPt)} pt  ${now.words.slice(start, visibleEnd)}\n`);
    const spaces =
      now.align === 'justified'
        ? `, spaces from ${printValue(narrowest * 100, 0)} to ${printValue(widest * 100, 0)} %`
        : `, rag ${printValue(spread * 100, 1)} %`;
    out(`${lines} ${lines === 1 ? 'line' : 'lines'}${spaces}, written to ${values.output}\n`);
    return 0;
  },
};
