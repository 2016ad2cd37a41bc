import { adviseLeading, adviseTracking, inCapitals, isLightOnDark } from '../advice';
import { baseColour } from '../drawing';
import { acceptFindings, ruleOf } from '../findings';
import { type Block, NEW_KERNING, USUAL_EDGES, relead, restyle, withBlockSettings } from '../job';
import { glyphMatrix, hasCursive, inkBox, lineGapsOf, runsOfLine } from '../setting';
import { boundKindOf } from '../spacing';
import { leadingPoints, printLeadings, printSigned } from '../units';
import type { StepChange, CutStep, StepView } from './step';

/** Tracking is changed from this much on, in 1/1000 em, and leading from this share of the size. */
const LEAST_TRACKING = 3;
const LEAST_LEADING = 0.02;

/** True where spacing is part of how letters are made, as where strokes join them: it is not ours. */
const isBound = ({ block, faces }: StepView): boolean => hasCursive(block.words) || boundKindOf(faces.instance(block.style)) !== undefined;

/** Mistyped marks and line ends that tear, as far as what is found proposes a fix: each rule one change. */
const words: CutStep = {
  id: 'words',
  name: 'Words',
  judgedBy: ['words'],
  propose: ({ block, findings }) => {
    const fixed = findings.filter(({ rule, proposal }) => proposal && ruleOf(rule)?.pass === 'words');
    return [...new Set(fixed.map(({ rule }) => rule))].map((rule): StepChange => {
      const places = fixed.filter((finding) => finding.rule === rule);
      const name = ruleOf(rule)?.name ?? rule;
      return {
        what: name,
        from: '',
        to: '',
        places: places.length,
        edit: (job) =>
          acceptFindings(
            job,
            places.map((finding) => ({ ...finding, blockId: block.id })),
          ),
      };
    });
  },
};

/** Tracking by size, as the face wants it, where nobody has tracked the block or where its tracking is found wrong; never tighter than goes unseen. */
const tracking: CutStep = {
  id: 'tracking',
  name: 'Tracking',
  propose: (view) => {
    const { block, sheet, faces, findings, limits } = view;
    const { style } = block;
    const wrong = findings.some(({ rule }) => ruleOf(rule)?.pass === 'tracking' && ruleOf(rule)?.looksAt === 'block');
    if (isBound(view) || (style.trackingMilliem !== 0 && !wrong)) return [];
    const lightOnDark = isLightOnDark(style.colour, baseColour(sheet.background));
    const advice = adviseTracking(faces.instance(style), { capitals: inCapitals(block.words, style.case), lightOnDark });
    const trackingMilliem = Math.max(limits.caution, Math.round(advice.at(style.sizePt)));
    if (Math.abs(trackingMilliem - style.trackingMilliem) < LEAST_TRACKING) return [];
    return [
      {
        what: 'tracking',
        from: printSigned(style.trackingMilliem),
        to: printSigned(trackingMilliem),
        places: 1,
        edit: (job) => restyle(job, block.id, { trackingMilliem }),
      },
    ];
  },
};

/** How far the ink of a block's lines reaches above and below their baselines, in em of each line's size. */
function reachOf({ setting, faces }: StepView): { up: number; down: number } {
  let [up, down] = [0, 0];
  for (const line of setting.lines) {
    for (const run of runsOfLine(line)) {
      const instance = faces.instance(run.style);
      for (const glyph of run.glyphs) {
        const box = inkBox(glyph.glyphId, glyphMatrix(glyph, run), instance);
        if (!box) continue;
        up = Math.max(up, (line.baselinePt - box.topPt) / line.sizePt);
        down = Math.max(down, (box.bottomPt - line.baselinePt) / line.sizePt);
      }
    }
  }
  return { up, down };
}

/** Leading by what the lines' ink reaches and by size, where it is automatic or inks of two lines meet. */
const leading: CutStep = {
  id: 'leading',
  name: 'Leading',
  propose: (view) => {
    const { block, setting, faces } = view;
    if (setting.lines.length < 2) return [];
    const meet = lineGapsOf(setting, faces).some(({ clearPt }) => clearPt !== undefined && clearPt <= 0);
    if (block.leading.kind !== 'auto' && !meet) return [];
    const { sizePt } = block.style;
    const factor = adviseLeading(reachOf(view), sizePt);
    const now = leadingPoints(block.leading, sizePt) / sizePt;
    if (Math.abs(factor - now) < LEAST_LEADING || (meet && factor < now)) return [];
    const stated = { kind: 'multiple', factor } as const;
    const [from, to] = printLeadings(block.leading, stated, [sizePt, sizePt]);
    return [{ what: 'leading', from, to, places: 1, edit: (job) => relead(job, block.id, stated) }];
  },
};

/** Kerning from one source for all words of a block; hand kerning stays on top. */
const kerning: CutStep = {
  id: 'kerning',
  name: 'Kerning',
  propose: (view) => {
    const { block, kerning: source, kerningStrength } = view;
    const wanted = { kerning: source, kerningStrength };
    const name = KERNING_NAMES[source];
    const styles = [block.style, ...block.runs.map((run) => ({ ...block.style, ...run.style }))];
    if (isBound(view) || styles.every((style) => style.kerning === wanted.kerning && style.kerningStrength === kerningStrength)) return [];
    return [
      {
        what: 'kerning',
        from: KERNING_NAMES[block.style.kerning],
        to: kerningStrength === 1 ? name : `${name}, ${Math.round(kerningStrength * 100)} %`,
        places: 1,
        asked: source !== NEW_KERNING,
        edit: (job) => {
          const whole = restyle(job, block.id, wanted);
          return block.words.length > 0 ? restyle(whole, block.id, wanted, { start: 0, end: block.words.length }) : whole;
        },
      },
    ];
  },
};

const KERNING_NAMES: Readonly<Record<Block['style']['kerning'], string>> = { font: 'font', weighed: 'weighed', shape: 'by shape', off: 'none' };

/** Stranded words taken up by the least that does it, and paragraphs broken better, where that is found to help; words stay what they are. */
const breaks: CutStep = {
  id: 'breaks',
  name: 'Breaks',
  judgedBy: ['words', 'fit'],
  propose: ({ block, findings }) =>
    findings
      .filter(({ pass, proposal }) => pass === 'fit' && proposal)
      .map((finding): StepChange => ({
        what: `${finding.name}: ${finding.subject}`,
        from: '',
        to: '',
        places: 1,
        edit: (job) => acceptFindings(job, [{ ...finding, blockId: block.id }]),
      })),
};

/** Edges nearer than this are one, in points. */
const SAME_EDGE = 0.5;

/** True for one line whose edge nothing shares: no margin, no guide, no other words. Its ink is aligned with nothing. */
function standsAlone({ block, setting, sheet }: StepView): boolean {
  if (setting.lines.length > 1 || block.align === 'centre') return false;
  const edge = ({ frame, align }: Block): number => (align === 'right' ? frame.xPt + frame.widthPt : frame.xPt);
  const shared = [
    sheet.margins.leftPt,
    sheet.widthPt - sheet.margins.rightPt,
    ...sheet.guides.flatMap((guide) => (guide.axis === 'x' ? [guide.atPt] : [])),
    ...sheet.blocks.filter((other) => other.id !== block.id).flatMap(({ frame }) => [frame.xPt, frame.xPt + frame.widthPt]),
  ];
  return shared.every((at) => Math.abs(at - edge(block)) > SAME_EDGE);
}

/** Marks that hang and edges aligned by what is seen, for words that nobody has aligned otherwise. */
const edges: CutStep = {
  id: 'edges',
  name: 'Edges',
  judgedBy: ['words', 'edges'],
  propose: (view) => {
    const { block, setting } = view;
    if (block.edges || setting.straight || block.words.trim() === '' || standsAlone(view)) return [];
    const settings = { edges: USUAL_EDGES };
    const places = setting.lines.length;
    return [{ what: 'edges', from: 'metric', to: 'optical', places, edit: (job) => withBlockSettings(job, block.id, settings) }];
  },
};

/** All steps in the order of the craft. */
export const CUT_STEPS: readonly CutStep[] = [words, tracking, leading, kerning, breaks, edges];
