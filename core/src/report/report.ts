/** A job told in words and numbers: what stands where, how it is set, how even it is, and what is still open. */
import { type JobCheck, SEVERITIES, type Severity, checkJob } from '../findings';
import { type Job, type NamedFace, missingFace, resolveSheet, specOf } from '../job';
import { type FaceSet, facesOf, setBlock } from '../setting';
import { fromPoints } from '../units';

type CheckOptions = Parameters<typeof checkJob>[2];

export interface LineReport {
  words: string;
  /** From the first letter's origin to the end of the last advance, and where its baseline is on the sheet, in points. */
  widthPt: number;
  baselinePt: number;
  sizePt: number;
}

export interface BlockReport {
  id: string;
  /** The settings as one spec line. */
  spec: string;
  /** 0 to 100; null where there are too few pairs, or a face is missing. */
  evenness: number | null;
  findings: number;
  /** Places in the words that were spaced by hand. */
  byHand: number;
  lines: LineReport[];
}

export interface SheetReport {
  id: string;
  name: string;
  widthPt: number;
  heightPt: number;
  blocks: BlockReport[];
}

/** Plain data. */
export interface JobReport {
  title: string;
  kind: Job['kind'];
  evenness: number | null;
  findings: Record<Severity, number>;
  /** How many findings each pass has, those without any left out. */
  passes: Record<string, number>;
  faces: { id: string; name: string; missing: boolean }[];
  sheets: SheetReport[];
  /** The findings left, most visible first. */
  open: Pick<JobCheck['findings'][number], 'severity' | 'pass' | 'sheet' | 'subject' | 'message' | 'words'>[];
}

export function reportOn(job: Job, faces: FaceSet, options: CheckOptions = {}): JobReport {
  const { findings, evenness, blocks: measures } = checkJob(job, faces, options);
  const named: NamedFace[] = [...faces.entries()].map(([id, { family, style }]) => ({ id, family, style }));
  const used = [...new Set(job.sheets.flatMap(({ blocks }) => blocks.flatMap(facesOf)))];
  const counted = <K extends string>(keys: readonly K[], start: Partial<Record<K, number>> = {}): Record<K, number> =>
    keys.reduce((counts, key) => ({ ...counts, [key]: (counts[key] ?? 0) + 1 }), start) as Record<K, number>;
  const none = Object.fromEntries(SEVERITIES.map((severity) => [severity, 0])) as Record<Severity, number>;
  return {
    title: job.title,
    kind: job.kind,
    evenness: evenness ?? null,
    findings: counted(
      findings.map(({ severity }) => severity),
      none,
    ),
    passes: counted(findings.map(({ pass }) => pass)),
    faces: used.map((id) => {
      const face = faces.get(id);
      return { id, name: face ? `${face.family} ${face.style}` : missingFace(id).family, missing: !face };
    }),
    sheets: job.sheets.map((raw): SheetReport => {
      const { id, name, widthPt, heightPt, blocks } = resolveSheet(job, raw);
      return {
        ...{ id, name, widthPt, heightPt },
        blocks: blocks.map((block): BlockReport => {
          const measure = measures.find((one) => one.sheetId === id && one.blockId === block.id);
          return {
            id: block.id,
            spec: specOf(block, named),
            evenness: measure?.evenness ?? null,
            findings: measure?.findings ?? 0,
            byHand: block.hand.length,
            lines: setBlock(block, faces).lines.map(({ start, end, widthPt: width, baselinePt, sizePt }) => ({
              words: block.words.slice(start, end).trimEnd(),
              ...{ widthPt: width, baselinePt, sizePt },
            })),
          };
        }),
      };
    }),
    open: findings.map(({ severity, pass, sheet, subject, message, words }) => ({ severity, pass, sheet, subject, message, words })),
  };
}

const mm = (pt: number): string => `${fromPoints(pt, 'mm').toFixed(1)} mm`;
const even = (evenness: number | null): string => (evenness === null ? '–' : evenness.toFixed(0));
/** A cell of a table. */
const cell = (text: string): string => text.replaceAll('|', '\\|').replace(/\s+/g, ' ');

const table = (heads: readonly string[], rows: readonly (readonly string[])[]): string[] =>
  [heads, heads.map(() => '---'), ...rows.map((row) => row.map(cell))].map((row) => `| ${row.join(' | ')} |`);

/** The report as Markdown. */
export function sayReport({ title, kind, evenness, findings, faces, sheets, open }: JobReport): string {
  const count = SEVERITIES.filter((severity) => findings[severity] > 0).map((severity) => `${findings[severity]} ${severity}`);
  const lines = [
    `# ${title}`,
    '',
    `${kind}, ${sheets.length} ${sheets.length === 1 ? 'sheet' : 'sheets'}. Evenness ${even(evenness)} of 100. ${count.length > 0 ? `Findings: ${count.join(', ')}.` : 'No findings.'}`,
    '',
    `Faces: ${faces.map(({ name, missing }) => (missing ? `${name} (missing)` : name)).join(', ') || 'none'}.`,
  ];
  for (const { name, widthPt, heightPt, blocks } of sheets) {
    lines.push('', `## ${name}, ${mm(widthPt)} × ${mm(heightPt)}`, '');
    const rows = blocks.flatMap(({ spec, evenness: own, findings: found, byHand, lines: set }) =>
      set.map(({ words, widthPt: width, sizePt }, i) => [
        words,
        `${Number(sizePt.toFixed(2))} pt`,
        mm(width),
        ...(i === 0 ? [spec, even(own), String(found), String(byHand)] : ['', '', '', '']),
      ]),
    );
    if (rows.length > 0) lines.push(...table(['Line', 'Size', 'Width', 'Set in', 'Evenness', 'Findings', 'Manual'], rows));
    else lines.push('Empty.');
  }
  if (open.length > 0) {
    lines.push('', '## Findings', '');
    lines.push(
      ...table(
        ['', 'Pass', 'Where', 'What'],
        open.map(({ severity, pass, sheet, subject, message, words }) => [
          severity,
          pass,
          [sheet, words && `“${words}”`].filter(Boolean).join(': '),
          `${subject} ${message}`,
        ]),
      ),
    );
  }
  return `${lines.join('\n')}\n`;
}
