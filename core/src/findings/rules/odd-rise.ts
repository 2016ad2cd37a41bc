import { type Block, type Job, allBlocks } from '../../job';
import { printSigned } from '../../units';
import type { Found } from '../finding';
import type { Rule } from '../rule';
import { scriptsIn } from './scripts-in';

/** Rises that differ by less than this, in 1/1000 em, are one to the eye. */
const SAME_RISE = 8;

/** A made superior or inferior that stands at another height than most of its kind in the same face. */
function oddRises(job: Pick<Job, 'sheets'>): (Found & { blockId: string })[] {
  const groups = new Map<string, { block: Block; script: ReturnType<typeof scriptsIn>[number] }[]>();
  for (const block of allBlocks(job as Job)) {
    for (const script of scriptsIn(block)) {
      const key = `${script.style.faceId} ${script.kind}`;
      groups.set(key, [...(groups.get(key) ?? []), { block, script }]);
    }
  }
  return [...groups.values()].flatMap((group) => {
    const counts = new Map<number, number>();
    for (const { script } of group) counts.set(script.style.baselineShiftMilliem, (counts.get(script.style.baselineShiftMilliem) ?? 0) + 1);
    const [common] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [0];
    return group
      .filter(({ script }) => Math.abs(script.style.baselineShiftMilliem - common) > SAME_RISE)
      .map(({ block, script: { start, end, text, style, kind } }) => ({
        at: start,
        blockId: block.id,
        severity: 'notice' as const,
        visiblePt: (Math.abs(style.baselineShiftMilliem - common) * style.sizePt) / 1000,
        subject: text,
        message: `${kind} raised by ${printSigned(style.baselineShiftMilliem)}/1000 em, others by ${printSigned(common)}/1000 em`,
        proposal: { ranges: [{ start, end, style: { baselineShiftMilliem: common } }] },
      }));
  });
}

export const oddRise: Rule = {
  id: 'odd-rise',
  pass: 'shift',
  name: 'Small letters at a different height',
  looksAt: 'job',
  look: ({ job }) => oddRises(job),
};
