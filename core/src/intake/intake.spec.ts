import { FileError } from '../base';
import { jobSchema, recipeOverrides } from '../job';
import { type FaceSet, setSheet } from '../setting';
import { shippedFaces } from '../testing';
import { IntakeError, READERS, type Reader, type ImportResult, readerFor, importJob } from '.';

describe('files taken in', () => {
  let faces: FaceSet;
  let n = 0;
  beforeAll(async () => (faces = await shippedFaces('source-sans-3-regular', 'source-sans-3-bold', 'playfair-display-bold', 'playfair-display-italic')));
  const take = (name: string, text: string): ImportResult => {
    const taken = importJob(readerFor(name)!, text, faces, { title: 'Taken', newId: () => `id${++n}`, pictureId: 'under' });
    expect(jobSchema.safeParse(taken.job).success).withContext(name).toBeTrue();
    return taken;
  };
  const blocks = (name: string, text: string) => take(name, text).job.sheets[0]!.blocks;

  it('that ask for what only programs know are read as they stand', () => {
    expect(
      blocks('a.html', '<p style="color:rgb(1 2 3_)">Late</p><p style="font-size:constructor">tide</p>').map(({ words, style }) => [words, style.sizePt]),
    ).toEqual([
      ['Late', 14],
      ['tide', 14],
    ]);
    expect(blocks('a.csv', 'words,__proto__,constructor\nLate tide,x,y\n').map(({ words }) => words)).toEqual(['Late tide']);
    const svg = (style: string) => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><text y="20" style="${style}">Tide</text></svg>`;
    for (const style of [
      'font-size:constructor',
      'fill:rgb(1 2 3_)',
      'font-size:3toString',
      'baseline-shift:valueOf;dominant-baseline:constructor',
      'font-family:__proto__',
    ]) {
      expect(blocks('a.svg', svg(style)).map(({ words }) => words))
        .withContext(style)
        .toEqual(['Tide']);
    }
  });

  it('are refused in their own terms where they are too much, and in words whatever is wrong', () => {
    const said = (name: string, text: string): string => {
      try {
        take(name, text);
        return '';
      } catch (error) {
        if (!(error instanceof FileError)) throw error;
        return error.message;
      }
    };
    expect(said('a.txt', 'x'.repeat(30_000))).toMatch(/^Passage 1, “x+…”, has 30000 characters; a block holds at most 20000/);
    expect(said('a.txt', `${'x'.repeat(19_000)}\n\n`.repeat(6))).toContain('114000 characters of words');
    const deep = `<style>${'@media x{'.repeat(20_000)}</style><text>a</text>`;
    expect(said('a.svg', `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${deep}</svg>`)).toContain('nested too deep');
    expect(said('a.md', '> '.repeat(50_000))).toContain('nested too deep');
    const broken: Reader = { ...readerFor('a.txt')!, take: () => [].at(1)!['words'] };
    expect(() => importJob(broken, 'x', faces, { title: '', newId: () => 'i', pictureId: '' })).toThrowError(IntakeError, /can’t be understood/);
    const unset: Reader = {
      ...broken,
      take: (...all) => ({ ...readerFor('a.txt')!.take(...all), job: { ...readerFor('a.txt')!.take(...all).job, title: '' } }),
    };
    expect(() => importJob(unset, 'x', faces, { title: '', newId: () => 'i', pictureId: '' })).toThrowError(IntakeError, /can’t be set/);
  });

  it('take time in proportion to their length, blanks too', () => {
    for (const [name, text] of [
      ['a.md', `a${' '.repeat(500_000)}b`],
      ['a.md', `a${' '.repeat(200_000)}\n${' '.repeat(200_000)}b`],
      ['a.html', `<pre>a${' '.repeat(15_000)}\nb${' '.repeat(200_000)}</pre>`],
      ['a.txt', `a${' '.repeat(15_000)}b${' '.repeat(500_000)}`],
    ] as const) {
      try {
        take(name, text);
      } catch (error) {
        if (!(error instanceof FileError)) throw error;
      }
    }
    expect(blocks('a.md', 'One \n  two\nthree').map(({ words }) => words)).toEqual(['One two three']);
  }, 15_000);

  it('text: a block a paragraph, the first the headline, none over another', () => {
    const found = blocks('copy.TXT', '\ufeffTwo nights\r\nto watch\r\n\r\n\r\nCome early.\r\n');
    expect(found.map(({ words, style }) => [words, style.sizePt])).toEqual([
      ['Two nights\nto watch', 48],
      ['Come early.', 14],
    ]);
    const [first, second] = found;
    expect(second!.frame.yPt).toBeGreaterThan(first!.frame.yPt + first!.frame.heightPt);
    expect(setSheet(take('a.txt', 'One').job.sheets[0]!, faces)[0]?.lines.length).toBe(1);
  });

  it('Markdown: headings, paragraphs, lists, bold and italic', () => {
    const { job, notes } = take('a.md', '# Watch\n\nLines of\na **bold** &amp; *slanted* kind.\n\n- one\n- two\n\n1. first\n\n```\ncode\n```\n');
    const found = job.sheets[0]!.blocks;
    expect(job.title).toBe('Watch');
    expect(found.map(({ words, style, paragraph }) => [words, style.sizePt, paragraph.list])).toEqual([
      ['Watch', 48, 'none'],
      ['Lines of a bold & slanted kind.', 14, 'none'],
      ['one\ntwo', 14, 'bullet'],
      ['first', 14, 'number'],
    ]);
    expect(found[0]?.style.faceId).toBe('source-sans-3-bold');
    const [bold] = found[1]!.runs;
    expect([found[1]!.words.slice(bold!.start, bold!.end), bold!.style.faceId]).toEqual(['bold', 'source-sans-3-bold']);
    expect(notes).toEqual(['A code was left out.']);
  });

  it('Markdown: lists in lists, and what has no words inside them', () => {
    expect(blocks('a.md', '- one\n  - two\n  - three\n- four\n').map(({ words }) => words)).toEqual(['one\ntwo\nthree\nfour']);
    expect(blocks('a.md', '- one\n  | a |\n  |---|\n  | b |\n\n  ---\n- two\n').map(({ words }) => words)).toEqual(['one\ntwo']);
  });

  it('HTML: headings and copy, bold, sizes and colours', () => {
    const { job, recipes } = take(
      'a.html',
      '<h1>Watch</h1><p>A <b>bold</b> <span style="color:#ff0000;font-size:30pt">red</span> kind.</p><ul><li>one<li>two</ul>',
    );
    const found = job.sheets[0]!.blocks;
    expect(found.map(({ words, paragraph }) => [words, paragraph.list])).toEqual([
      ['Watch', 'none'],
      ['A bold red kind.', 'none'],
      ['one\ntwo', 'bullet'],
    ]);
    expect(found[1]!.runs.map(({ start, end, style }) => [found[1]!.words.slice(start, end), style])).toEqual([
      ['bold', { faceId: 'source-sans-3-bold' }],
      ['red', { colour: '#ff0000', sizePt: 30 }],
    ]);
    expect(recipes?.map(({ name }) => name)).toEqual(['Heading 1', 'Copy']);
  });

  it('headings and copy follow recipes: those of their names that are there, else new ones', () => {
    const first = take('a.md', '# Watch\n\nOne\n\n## Then\n\nTwo');
    const { blocks: found } = first.job.sheets[0]!;
    expect(first.recipes?.map(({ name }) => name)).toEqual(['Heading 1', 'Copy', 'Heading 2']);
    expect(found.map(({ recipeId }) => first.recipes?.findIndex(({ id }) => id === recipeId))).toEqual([0, 1, 2, 1]);
    for (const block of found) expect(recipeOverrides(block, first.recipes!.find(({ id }) => id === block.recipeId)!.settings)).toEqual([]);
    const [heading] = first.recipes!;
    const own = {
      ...heading!,
      id: 'mine',
      name: 'HEADING 1',
      settings: { ...heading!.settings, style: { ...heading!.settings.style, sizePt: 99, faceId: 'playfair-display-bold' } },
    };
    const again = readerFor('a.md')!.take('# Watch *it*\n\nOne', faces, { title: 'T', newId: () => `id${++n}`, pictureId: 'p', recipes: [own] });
    const [watch] = again.job.sheets[0]!.blocks;
    expect([watch!.recipeId, watch!.style.sizePt, watch!.style.faceId, watch!.runs[0]?.style.faceId]).toEqual([
      'mine',
      99,
      'playfair-display-bold',
      'playfair-display-italic',
    ]);
    expect(again.recipes?.map(({ name }) => name)).toEqual(['Copy']);
  });

  it('CSV: a block a row, columns by name, in any unit', () => {
    const found = blocks('a.csv', 'Words,Size,x,y,Tracking,Align,color\n"A, ""B""\nC",12mm,10mm,20mm,30,center,#ff0000\nplain,,,,,,\n,,,,,,\n');
    expect(found.length).toBe(2);
    const [first, second] = found;
    expect([first!.words, first!.align, first!.style.colour, first!.style.trackingMilliem]).toEqual(['A, "B"\nC', 'centre', '#ff0000', 30]);
    expect([first!.style.sizePt, first!.frame.xPt, first!.frame.yPt].map((pt) => Math.round((pt * 25.4) / 72))).toEqual([12, 10, 20]);
    expect(second!.style.sizePt).toBe(14);
    expect(take('a.csv', 'words,mood\na,glad\n').notes[0]).toContain('mood');
  });

  it('refuses what it can’t read, in words', () => {
    for (const [name, text, says] of [
      ['a.txt', ' \n', 'empty'],
      ['a.md', '```\ncode\n```', 'no words'],
      ['a.md', `${'> '.repeat(20_000)}x`, 'nested'],
      ['a.csv', 'a,b\n1,2', 'words'],
      ['a.csv', 'words,size\nx,huge', 'Row 1, size'],
      ['a.csv', 'words,colour\nx,red', 'rrggbb'],
      ['a.txt', 'a\u0000b', 'not text'],
      ['a.txt', Array.from({ length: 2000 }, (_, i) => `p${i}`).join('\n\n'), 'blocks'],
    ] as const)
      expect(() => take(name, text))
        .withContext(name + text.slice(0, 10))
        .toThrowMatching((error) => error instanceof IntakeError && error.message.includes(says));
    expect(readerFor('a.exe')).toBeUndefined();
    expect(READERS.map(({ id }) => id)).toContain('svg');
  });
});
