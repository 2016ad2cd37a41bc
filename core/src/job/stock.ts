/** Ready lines of our own, to drop in and refine. */
export const STOCK_LINES: readonly { group: string; lines: readonly string[] }[] = [
  { group: 'Greetings', lines: ['Welcome up the hill', 'Good to see you again', 'Happy returns', 'With thanks from all of us'] },
  { group: 'Dates and hours', lines: ['Saturday 14 November, from 7 pm', 'Every first Friday', 'Open 10 to 5, closed Mondays', 'Doors at dusk'] },
  { group: 'Calls', lines: ['Book your place', 'Bring a friend', 'Find out more', 'Free entry. No booking.'] },
  {
    group: 'Placeholder copy',
    lines: [
      'The hill keeps its own hours, and the path up is lit only as far as the gate.',
      'Lamps are lowered at nine. Give your eyes twenty minutes, then look again.',
      'A short walk, a long bench, and more sky than you remembered.',
    ],
  },
];
