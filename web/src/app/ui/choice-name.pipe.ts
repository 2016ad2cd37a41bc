import { Pipe, type PipeTransform } from '@angular/core';

/** The names of choices on the page. */
const NAMES = {
  // Alignment, in a line and in a frame.
  left: 'Left',
  centre: 'Centre',
  right: 'Right',
  justified: 'Justified',
  top: 'Top',
  middle: 'Middle',
  bottom: 'Bottom',
  // Lists and line ends.
  none: 'None',
  bullet: 'Bullets',
  number: 'Numbers',
  even: 'Even',
  widening: 'Widening',
  narrowing: 'Narrowing',
  // End letters, paths and outlines.
  words: 'Words',
  lines: 'Lines',
  first: 'First',
  last: 'Last',
  both: 'Both',
  foot: 'Baseline',
  start: 'Start',
  end: 'End',
  miter: 'Mitre',
  round: 'Round',
  bevel: 'Bevel',
  // Small letters.
  superior: 'Superior',
  inferior: 'Inferior',
  ordinal: 'Ordinal',
  numerator: 'Numerator',
  denominator: 'Denominator',
  // Where a reference lies.
  under: 'Under',
  over: 'Over',
  beside: 'Beside',
  // Where a value holds.
  block: 'Block',
  sheet: 'Sheet',
  job: 'Job',
  // How grave a finding is.
  notice: 'Notice',
  fault: 'Fault',
  severe: 'Severe',
  // Kinds of faces and of jobs.
  serif: 'Serif',
  sans: 'Sans',
  slab: 'Slab',
  script: 'Script',
  mono: 'Mono',
  display: 'Display',
  poster: 'Poster',
  slides: 'Slides',
  social: 'Social',
  flyer: 'Flyer',
  other: 'Other',
  // Themes.
  system: 'System',
  light: 'Light',
  dark: 'Dark',
  // Parts of the bench and of its decks.
  deck: 'Deck',
  measure: 'Measure',
  breaks: 'Breaks',
  place: 'Position',
  look: 'Style',
  path: 'Path',
  ends: 'Ends',
  compare: 'Compare',
  reference: 'Reference',
  view: 'View',
  findings: 'Findings',
  evenness: 'Evenness',
  widths: 'Widths',
} as const;

/** A choice’s name on the page. */
@Pipe({ name: 'choiceName' })
export class ChoiceName implements PipeTransform {
  transform(choice: keyof typeof NAMES): string {
    return NAMES[choice];
  }
}
