import {
  type Job,
  type WordRange,
  PICKS,
  createBlock,
  createJob,
  findBlock,
  visibleLetters,
  nudgeLetters,
  resetLetters,
  restyle,
  restyleLetters,
  shiftedLetters,
  spliceWords,
  styleAt,
  updateBlock,
} from '.';

describe('picked letters', () => {
  const pick = (id: string, words: string, from: readonly WordRange[] = []): string =>
    PICKS.find((one) => one.id === id)!
      .of(words, from)
      .map(({ start, end }) => words.slice(start, end))
      .join(' ');

  it('are found by kind', () => {
    expect(pick('all', 'É 2!')).toBe('É 2 !');
    expect(pick('same', 'ababc', [{ start: 0, end: 1 }])).toBe('a a');
    expect(pick('second', 'ab cdef')).toBe('a c e');
    expect(pick('third', 'abcdefg')).toBe('a d g');
    expect(pick('ends', '“Two Nights” to I.')).toBe('T o N s t o I');
    expect(pick('capitals', 'Two NIGHTS, Élan')).toBe('T N I G H T S É');
    expect(pick('figures', '12 & 13 August')).toBe('1 2 1 3');
    expect(pick('marks', '“Ah, 1 € & so”')).toBe('“ , € & ”');
    // Accents and what else belongs to a letter go with it.
    expect(visibleLetters('e\u0301x').map(({ end }) => end)).toEqual([2, 3]);
  });

  const job = (): Job => {
    const made = createJob('t', () => 's');
    return {
      ...made,
      sheets: made.sheets.map((sheet) => ({ ...sheet, blocks: [createBlock('b', 'CO2 m2', { xPt: 0, yPt: 0, widthPt: 500, heightPt: 100 })] })),
    };
  };
  const block = (of: Job) => findBlock(of, 'b')!;
  const twos: WordRange[] = [
    { start: 2, end: 3 },
    { start: 5, end: 6 },
  ];

  it('are changed wherever they stand, each from its own value, and reset one kind or all', () => {
    const set = restyleLetters(job(), 'b', [twos[0]!], { baselineShiftMilliem: 50 });
    const nudged = nudgeLetters(set, 'b', twos, 'baselineShiftMilliem', -200);
    expect([2, 5, 0].map((at) => styleAt(block(nudged), at).baselineShiftMilliem)).toEqual([-150, -200, 0]);
    const turned = nudgeLetters(nudged, 'b', twos, 'turnDeg', 500);
    expect(styleAt(block(turned), 5).turnDeg).toBe(360);
    expect(shiftedLetters(block(turned))).toEqual(twos);
    const flat = resetLetters(turned, 'b', twos, ['turnDeg']);
    expect([styleAt(block(flat), 2).turnDeg, styleAt(block(flat), 2).baselineShiftMilliem]).toEqual([0, -150]);
    expect(block(resetLetters(turned, 'b', twos)).runs).toEqual([]);
  });

  it('keep the very same style while another letter is changed, and have another where the block has', () => {
    const set = restyleLetters(job(), 'b', [twos[0]!], { baselineShiftMilliem: 50 });
    const other = restyleLetters(set, 'b', [twos[1]!], { turnDeg: 10 });
    expect(styleAt(block(other), 2)).toBe(styleAt(block(set), 2));
    expect(styleAt(block(other), 5)).not.toEqual(styleAt(block(set), 5));
    const larger = restyle(other, 'b', { sizePt: 77 });
    expect(styleAt(block(larger), 2)).toEqual({ ...styleAt(block(other), 2), sizePt: 77 });
    expect(styleAt(block(other), 2).sizePt).not.toBe(77);
  });

  it('keep their shifts while the words around them are edited', () => {
    const nudged = nudgeLetters(job(), 'b', twos, 'baselineShiftMilliem', -200);
    const edited = updateBlock(nudged, 'b', (one) => spliceWords(one, { start: 0, end: 0, insert: 'Pure ' }));
    expect(shiftedLetters(block(edited)).map(({ start }) => block(edited).words.slice(0, start).length)).toEqual([7, 10]);
  });
});
