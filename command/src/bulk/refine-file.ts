/** One file refined: a job, or an SVG. */
import { readJobFile, writeJobFile } from '@jentrix/core/formats';
import { type FirstCut, type KerningSource, type CutMeasure, CUT_STEPS, firstCut } from '@jentrix/core/refine';
import type { FaceSet } from '@jentrix/core/setting';
import { SVG_STEPS, refineSvg } from '@jentrix/core/svg-text';
import { allFaces, facesForJob, glyphText } from '../fonts';
import { UsageError } from '../usage-error';

/** How files are refined; plain data. */
export interface RefineOptions {
  steps: readonly string[];
  kerning: KerningSource;
  strength: number;
  facesFolder: string;
}

/** A file that was refined. */
export interface Refined {
  content: string;
  cut: FirstCut;
  /** Messages for people. */
  notes: string[];
}

/** A measure as a report shows it. */
export const plainMeasure = ({ evenness, findings }: CutMeasure): { evenness: number | null; findings: number } => ({ evenness: evenness ?? null, findings });

/** Whether a file is an SVG, by its name. */
export const isSvgPath = (path: string): boolean => /\.svg$/i.test(path);

/** The steps that can be carried out in an SVG: those that say only where letters stand. @throws UsageError for none */
export function svgSteps(steps: readonly string[]): string[] {
  const taken = steps.filter((step) => (SVG_STEPS as readonly string[]).includes(step));
  if (taken.length === 0) throw new UsageError(`In an SVG only where letters stand is changed: --steps takes ${SVG_STEPS.join(', ')}.`);
  return taken;
}

/** The steps named in a list. @throws UsageError */
export function stepsIn(list: string): string[] {
  const known = CUT_STEPS.map(({ id }) => id);
  const steps = list.split(',').map((step) => step.trim());
  const unknown = steps.find((step) => !known.includes(step));
  if (unknown !== undefined) throw new UsageError(`“${unknown}” is no step; there are ${known.join(', ')}.`);
  return steps;
}

/** The faces of a folder, opened once for all files. */
const opened = new Map<string, Promise<{ faces: FaceSet; troubles: string[] }>>();

/** @throws WordedError saying what is wrong with the file */
export async function refineFile(path: string, { steps, kerning, strength, facesFolder }: RefineOptions): Promise<Refined> {
  if (isSvgPath(path)) {
    let all = opened.get(facesFolder);
    if (!all) opened.set(facesFolder, (all = allFaces(facesFolder)));
    const { faces, troubles } = await all;
    const { source, cut, notes, changed } = refineSvg(glyphText(path), faces, { steps: svgSteps(steps), kerning, kerningStrength: strength });
    const left = notes.left.map(({ words, why }) => `“${words}” is left as it is: ${why}`);
    return { content: source, cut, notes: [...troubles, ...left, `${changed} ${changed === 1 ? 'text' : 'texts'} spaced`] };
  }
  const job = readJobFile(glyphText(path));
  const { faces, missing } = await facesForJob(job, facesFolder);
  const cut = firstCut(job, faces, { steps, kerning, kerningStrength: strength });
  return { content: writeJobFile(cut.job), cut, notes: missing.map((id) => `the face “${id}” is missing; its words are left as they are`) };
}
