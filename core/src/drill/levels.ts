/** A level of practice: words in rising difficulty. The words are made up or plain English, and say nothing. */

export interface Level {
  id: string;
  name: string;
  /** The skill it trains. */
  says: string;
  words: readonly string[];
  /** Whether it is set in slanted faces. */
  italic: boolean;
}

export const LEVEL_IDS = ['straight', 'round', 'diagonal', 'capitals', 'lower', 'italic', 'figures', 'words', 'lines'] as const;
export type LevelId = (typeof LEVEL_IDS)[number];

/** How many letters can be practised on: two are given, and more than so many can't be judged at once. */
export const LEAST_WORD_LETTERS = 3;
export const MOST_WORD_LETTERS = 24;

/** From the easiest on. */
export const LEVELS: readonly (Level & { id: LevelId })[] = [
  {
    id: 'straight',
    name: 'Straight',
    says: 'Stems beside stems: the widest gaps, all alike.',
    words: ['MINIM', 'HIMIN', 'NIHIM', 'INHIM', 'MUHIN', 'HUMIN'],
    italic: false,
  },
  {
    id: 'round',
    name: 'Round',
    says: 'Bowls beside bowls and stems: closer, because white opens above and below.',
    words: ['COCOON', 'DOGOD', 'MOCOHO', 'OCHONO', 'GONDOHO', 'NOMOCO'],
    italic: false,
  },
  {
    id: 'diagonal',
    name: 'Diagonal',
    says: 'Slopes let white in from above or below: close them up, often a lot.',
    words: ['AVAWAY', 'WAVYA', 'HAVANA', 'YAMAHAV', 'NAVAHO', 'VIAVOX', 'KAYAK'],
    italic: false,
  },
  {
    id: 'capitals',
    name: 'Capitals',
    says: 'All kinds of sides in one word.',
    words: ['VALLEY', 'TWILIGHT', 'LAYOUT', 'HORIZON', 'PLATFORM', 'AURORA', 'FATHOM', 'TYPHOON', 'ROYALTY', 'WALTZ'],
    italic: false,
  },
  {
    id: 'lower',
    name: 'Lower case',
    says: 'Smaller gaps and smaller faults.',
    words: ['valley', 'overlay', 'twofold', 'waxwork', 'horizon', 'voyage', 'rookery', 'kettle', 'fjord', 'gravity'],
    italic: false,
  },
  {
    id: 'italic',
    name: 'Italic',
    says: 'White that leans with the letters.',
    words: ['Valley', 'waxwork', 'voyage', 'Twofold', 'fathom', 'Typhoon', 'gravity', 'Avenue'],
    italic: true,
  },
  {
    id: 'figures',
    name: 'Figures',
    says: 'Ones and sevens have more white around them.',
    words: ['17417', '20471', '71070', '11947', '40717', '17:45', '4.714'],
    italic: false,
  },
  {
    id: 'words',
    name: 'Words',
    says: 'A capital and the letter it overhangs.',
    words: ['Valley', 'Tonight', 'Water', 'Yearly', 'Voyage', 'Towpath', 'Fourteen', 'Payload', 'Works', 'Raven'],
    italic: false,
  },
  {
    id: 'lines',
    name: 'Two words',
    says: 'Letter space and word space together.',
    words: ['To Wait', 'Very Late', 'A Valley', 'Two Ways', 'Far West', 'Fly Away', 'New Works', 'Low Tide'],
    italic: false,
  },
];

/** @throws RangeError for a level that there is not */
export function levelOf(id: string): (typeof LEVELS)[number] {
  const level = LEVELS.find((one) => one.id === id);
  if (!level) throw new RangeError(`There is no level “${id}”; there are ${LEVEL_IDS.join(', ')}.`);
  return level;
}
