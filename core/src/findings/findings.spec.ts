import { ARM_MM, readingDistance } from '../advice';
import { type Block, createJob, findBlock, withSilenced, spliceWords } from '../job';
import { editWords } from '../wording';
import { Face } from '../face';
import { FaceSet, setBlock } from '../setting';
import { NO_TASTE, type Taste, decided } from '../taste';
import { fontBytes, headline, shippedFaces } from '../testing';
import { NOTICED } from '../spacing';
import { JUDGING, FINDING_RULES, type Finding, type Rule, Inspector, noticedAt, acceptFinding, acceptFindings, inspectBlock, ruleOf } from '.';
import { inspectView, viewOf } from './inspect';
import { helpTyping } from './typing';

describe('findings', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular', 'eb-garamond-italic', 'eb-garamond-bold');
  });
  const styled = (words: string, style: Partial<Block['style']>, change: Partial<Block> = {}): Block => {
    const block = headline(words, change);
    return { ...block, style: { ...block.style, ...style } };
  };
  const inspect = (block: Block) => inspectBlock(block, setBlock(block, faces), faces);
  const found = (block: Block, rule: string): Finding[] => inspect(block).findings.filter((finding) => finding.rule === rule);
  const accept = (block: Block, finding: Finding): Block => {
    const [sheet] = createJob('t', () => 's').sheets;
    if (!sheet) throw new Error('no sheet');
    const job = { ...createJob('t', () => 's'), sheets: [{ ...sheet, blocks: [block] }] };
    return findBlock(acceptFinding(job, finding), block.id) ?? block;
  };

  it('finds gaps that are too open, most visible first, and the proposal fixes them', () => {
    const block = styled('AVATAR', { kerning: 'off' });
    const open = found(block, 'gap-open');
    expect(open[0]?.subject).toMatch(/AV|VA/);
    expect(open[0]?.severity).toBe('severe');
    // What is seen and sure comes first.
    const ranks = open.map(({ visiblePt, certainty = 0 }) => visiblePt * certainty);
    expect(ranks).toEqual([...ranks].sort((a, b) => b - a));
    expect(open.every(({ certainty = 0 }) => certainty > 0 && certainty <= 1)).toBeTrue();
    expect(found(styled('AVATAR', { kerning: 'shape' }, { hand: [{ at: 1, milliem: 60 }] }), 'gap-open')[0]?.certainty).toBe(1);
    const fixed = open.reduce(accept, block);
    expect(found(fixed, 'gap-open')).toEqual([]);
    expect(inspect(fixed).evenness ?? 0).toBeGreaterThan(inspect(block).evenness ?? 100);
    expect(inspect(fixed).evenness).toBeCloseTo(inspect(block).evennessProposed ?? 0, 6);
  });

  it('weighs the font’s word with the shapes’: quiet on what its designer kerned, as bold as before where there is none', async () => {
    const words = 'Two Nights to Watch a Valley';
    const kerned = styled(words, {});
    const gaps = (block: Block) => viewOf(block, setBlock(block, faces), faces).lines.flat();
    const spoken = (block: Block): Finding[] => [...found(block, 'gap-open'), ...found(block, 'gap-tight')];
    expect(spoken(kerned)).toEqual([]);
    // What it should hold lies between both opinions, nearer to the font's where that kerns.
    for (const { fontMilliem, shapeMilliem, shouldMilliem, atSpace } of gaps(kerned)) {
      if (atSpace) continue;
      expect(shouldMilliem).toBeGreaterThanOrEqual(Math.min(fontMilliem, shapeMilliem));
      expect(shouldMilliem).toBeLessThanOrEqual(Math.max(fontMilliem, shapeMilliem));
      if (fontMilliem !== 0) expect(Math.abs(shouldMilliem - fontMilliem)).toBeLessThanOrEqual(Math.abs(shouldMilliem - shapeMilliem));
    }
    for (const milliem of [30, -30]) {
      const at = words.indexOf('ghts') + 1;
      expect(spoken(styled(words, {}, { hand: [{ at, milliem }] })).map((one) => one.at)).toEqual([at]);
    }
    // The same words in a font without kerning of its own: the shapes alone.
    const bare = new FaceSet('bare');
    bare.add('bare', await Face.open(fontBytes('playfair-display-bold'), { withoutTables: ['GPOS', 'kern'] }));
    const block = styled(words, { faceId: 'bare' });
    const view = viewOf(block, setBlock(block, bare), bare);
    expect(view.lines.flat().every(({ shouldMilliem, shapeMilliem }) => shouldMilliem === shapeMilliem)).toBeTrue();
    expect(inspectView(view, bare).findings.filter(({ rule }) => rule === 'gap-open').length).toBeGreaterThan(2);
  });

  it('takes the shapes’ word alone where they are the source, and leaves alone what is set twice alike by hand', () => {
    expect(found(styled('AVATAR Type', { kerning: 'shape' }), 'gap-open')).toEqual([]);
    expect(found(styled('AVATAR Type', { kerning: 'shape' }), 'gap-tight')).toEqual([]);
    const once = headline('HIM HIM', { hand: [{ at: 1, milliem: -40 }] });
    expect(found(once, 'gap-tight').length).toBe(1);
    const twice = headline('HIM HIM', {
      hand: [
        { at: 1, milliem: -40 },
        { at: 5, milliem: -40 },
      ],
    });
    expect(found(twice, 'gap-tight')).toEqual([]);
  });

  it('finds marks as a typewriter has them, by the language of the words, and fixes all at once', () => {
    const fix = (words: string, language: string | null): string => {
      const block = { ...headline(words), language };
      const [sheet] = createJob('t', () => 's').sheets;
      const marks = inspect(block).findings.filter(({ proposal }) => proposal?.words);
      const job = { ...createJob('t', () => 's'), sheets: [{ ...sheet!, blocks: [block] }] };
      const fixed = findBlock(acceptFindings(job, marks), block.id)!;
      expect(found({ ...fixed, language }, 'straight-quotes')).toEqual([]);
      return fixed.words;
    };
    for (const [language, typed, meant] of [
      ['en', '"Two nights" isn\'t much', '“Two nights” isn’t much'],
      ['en', "She said \"that 'star' fell\" in '99", 'She said “that ‘star’ fell” in ’99'],
      ['en', "the stars' light -- and 'twas", 'the stars’ light—and ’twas'],
      ['de', '"Zwei Nächte" - gibt\'s das?', '„Zwei Nächte“ – gibt’s das?'],
      ['de-CH', 'eins -- zwei', 'eins – zwei'],
      ['fr', 'Il dit "oui" !', 'Il dit «\u202foui\u202f»\u202f!'],
      ['fr', "Quoi? L'été: deux nuits , et après", 'Quoi\u202f? L’été\u00a0: deux nuits, et après'],
      [null, 'A mast 6\' 2" tall', 'A mast 6′ 2″ tall'],
      [null, 'wait... 420 x 594 mm, 8-10 pm,rain', 'wait… 420 × 594 mm, 8–10 pm, rain'],
      [null, 'two  nights , then home', 'two nights, then home'],
      // What is right stays, and so does what only looks like it.
      [
        null,
        '“Vega”, 2026-11-26, 020-7946-0958, 22:40, well-known x-height, 0x1F, A-1.',
        '“Vega”, 2026-11-26, 020-7946-0958, 22:40, well-known x-height, 0x1F, A-1.',
      ],
      ['fr', 'à 22:40, «\u202foui\u202f»', 'à 22:40, «\u202foui\u202f»'],
    ] as [string | null, string, string][]) {
      expect(fix(typed, language)).toBe(meant);
      expect(fix(meant, language)).toBe(meant);
    }
    const [quote] = found(headline('say "so"'), 'straight-quotes');
    expect(quote).toEqual(jasmine.objectContaining({ at: 4, subject: 'say "so"', severity: 'fault' }));
  });

  it('finds lines of a headline that end in a short word or tear a figure from its unit, and proposes the better break', () => {
    const block = headline('A VALLEY OF\nFALLING STARS');
    const [end] = found(block, 'line-end');
    expect(end).toEqual(jasmine.objectContaining({ at: 9, severity: 'notice', subject: 'OF FALLING' }));
    const fixed = accept(block, end!);
    expect(fixed.words).toBe('A VALLEY\nOF FALLING STARS');
    expect(found(fixed, 'line-end')).toEqual([]);
    expect(found(styled('A VALLEY OF\nFALLING STARS', { sizePt: 12 }), 'line-end')).toEqual([]);
    expect(found({ ...block, language: 'de' }, 'line-end')).toEqual([]);
    // Where a line broke by itself, both stay together from then on.
    const narrow: Block = { ...headline('From here 420 mm on'), grow: 'down', frame: { xPt: 0, yPt: 0, widthPt: 750, heightPt: 400 } };
    expect(setBlock(narrow, faces).lines.map(({ start, visibleEnd }) => narrow.words.slice(start, visibleEnd))).toEqual(['From here 420', 'mm on']);
    const [torn] = found(narrow, 'line-end');
    expect(torn?.message).toContain('unit');
    expect(accept(narrow, torn!).words).toBe('From here 420\u00a0mm on');
    expect(found(accept(narrow, torn!), 'line-end')).toEqual([]);
    // Where the line below has no room for the word, the break is as good as it gets.
    const full = styled('A VALLEY OF\nFALLING STARS', {}, { grow: 'down' });
    const width = setBlock(full, faces).lines[1]?.widthPt ?? 0;
    const inFrame = (widthPt: number) => found({ ...full, frame: { ...full.frame, widthPt } }, 'line-end').length;
    expect([inFrame(width + 250), inFrame(width + 50)]).toEqual([1, 0]);
    expect(found(headline('by J.\nKepler'), 'line-end')[0]?.message).toContain('initial');
  });

  it('finds gaps that are too tight, and ranks by size on the sheet', () => {
    const block = headline('HIHIHI', { hand: [{ at: 2, milliem: -40 }] });
    const [tight] = found(block, 'gap-tight');
    expect(tight).toEqual(jasmine.objectContaining({ at: 2, changeMilliem: 40, severity: 'fault' }));
    expect(tight?.visiblePt).toBeCloseTo(4, 6);
    const larger = styled('HIHIHI', { sizePt: 300 }, { hand: [{ at: 2, milliem: -40 }] });
    expect(found(larger, 'gap-tight')[0]?.visiblePt).toBeCloseTo(12, 6);
    expect(found(styled('HIHIHI', { sizePt: 9 }, { hand: [{ at: 2, milliem: -40 }] }), 'gap-tight')).toEqual([]);
  });

  it('finds letters that touch since tracking, and opens them until they don’t', () => {
    const block = styled('minimum hill', { trackingMilliem: -90, faceId: 'source-sans-3-regular' });
    const touching = found(block, 'touching');
    expect(found(styled('minimum hill', { faceId: 'source-sans-3-regular' }), 'touching')).toEqual([]);
    const tighter = styled('minimum hill', { trackingMilliem: -190, faceId: 'source-sans-3-regular' });
    const clots = found(tighter, 'touching');
    expect(clots.length).toBeGreaterThan(touching.length);
    expect(clots.every(({ severity }) => severity === 'severe')).toBeTrue();
    expect(found(clots.reduce(accept, tighter), 'touching')).toEqual([]);
  });

  it('leaves inks apart by shape, calls no gap open that would touch, and says where inks touch whatever kerns them', () => {
    const set = (kerning: 'font' | 'shape' | 'off', change: Partial<Block> = {}) => styled('chef’s', { kerning, faceId: 'eb-garamond-bold' }, change);
    const at = 'chef'.length;
    expect(found(set('font'), 'gap-open').filter((finding) => finding.at === at)).toEqual([]);
    expect(found(set('font'), 'inks-touch')).toEqual([]);
    expect(found(set('shape'), 'inks-touch')).toEqual([]);
    const [touching] = found(set('off'), 'inks-touch');
    expect(touching).toEqual(jasmine.objectContaining({ at, severity: 'severe', subject: 'f’' }));
    expect(found(set('off'), 'gap-tight').filter((finding) => finding.at === at)).toEqual([]);
    const fixed = accept(set('off'), touching!);
    expect(found(fixed, 'inks-touch')).toEqual([]);
    // At half the strength as well, and by hand.
    expect(found(styled('chef’s', { kerning: 'shape', kerningStrength: 0.5, faceId: 'eb-garamond-bold' }), 'inks-touch')).toEqual([]);
    expect(found(set('shape', { hand: [{ at, milliem: -40 }] }), 'inks-touch').length).toBe(1);
  });

  it('finds letters that the face lacks, and proposes a face that has them for these alone', () => {
    const block = styled('Ночь Perseids λ', { faceId: 'eb-garamond-italic' });
    expect(found(block, 'missing-letters')).toEqual([]);
    const lacking = styled('Night λ', { faceId: 'playfair-display-bold' });
    const [missing] = found(lacking, 'missing-letters');
    expect(missing).toEqual(jasmine.objectContaining({ at: 6, severity: 'severe', subject: 'λ' }));
    const fixed = accept(lacking, missing!);
    expect(found(fixed, 'missing-letters')).toEqual([]);
    expect(fixed.runs).toEqual([{ start: 6, end: 7, style: { faceId: 'source-sans-3-regular' } }]);
    expect(found(styled('ሰላም', {}), 'missing-letters')[0]?.proposal).toBeUndefined();
  });

  it('finds the same pair kerned differently, and proposes the more common value', () => {
    const block = headline('VAVAVA', {
      hand: [
        { at: 1, milliem: -10 },
        { at: 3, milliem: -10 },
      ],
    });
    const [odd, ...more] = found(block, 'same-pair');
    expect(more).toEqual([]);
    expect(odd).toEqual(jasmine.objectContaining({ at: 5, subject: 'VA', changeMilliem: -10 }));
    expect(odd && found(accept(block, odd), 'same-pair')).toEqual([]);
  });

  it('finds word spaces out of proportion, in both directions', () => {
    const wide = styled('two nights to watch', { wordSpaceMilliem: 400 });
    const [islands] = found(wide, 'word-space');
    expect(islands?.message).toContain('too wide');
    expect(islands && found(accept(wide, islands), 'word-space')).toEqual([]);
    expect(found(styled('two nights to watch', { wordSpaceMilliem: -200 }), 'word-space')[0]?.message).toContain('narrow');
    expect(found(headline('two nights to watch'), 'word-space')).toEqual([]);
  });

  it('finds tracking beyond the limits and wrong for the size', () => {
    const severity = (trackingMilliem: number) => found(styled('Vega', { trackingMilliem }), 'tracking-limit')[0]?.severity;
    expect([-10, -20, -40, -60].map(severity)).toEqual([undefined, 'notice', 'fault', 'severe']);
    const loose = styled('Vega', { trackingMilliem: 120 });
    expect(found(loose, 'tracking-size')[0]?.message).toContain('loose');
    expect(found(styled('Vega', { trackingMilliem: -20, sizePt: 10 }), 'tracking-size')[0]?.message).toContain('tight');
  });

  it('stays silent where it is as intended, also after the words around it were edited', () => {
    const block = styled('AVATAR', { kerning: 'off' });
    const [worst] = found(block, 'gap-open');
    if (!worst) throw new Error('nothing found');
    const [sheet] = createJob('t', () => 's').sheets;
    if (!sheet) throw new Error('no sheet');
    const job = { ...createJob('t', () => 's'), sheets: [{ ...sheet, blocks: [block] }] };
    const silenced = findBlock(withSilenced(job, block.id, worst.rule, worst.at, true), block.id) ?? block;
    expect(inspect(silenced).findings.some(({ at, rule }) => at === worst.at && rule === worst.rule)).toBeFalse();
    expect(inspect(silenced).intended.length).toBe(1);
    const edited = findBlock(editWords(withSilenced(job, block.id, worst.rule, worst.at, true), block.id, [{ start: 0, end: 0, insert: 'THE ' }]), block.id);
    expect(edited && inspect(edited).intended[0]?.at).toBe(worst.at + 4);
    const cut = spliceWords(silenced, { start: worst.at - 1, end: worst.at, insert: '' });
    expect(inspect(cut).intended).toEqual([]);
  });

  it('holds what is seen large to a finer measure, and lets small copy and what is far away be; proposals stay the same', () => {
    // At arm's length.
    expect(noticedAt(36, 400)).toBeCloseTo(NOTICED, 6);
    expect(noticedAt(300, 400)).toBeCloseTo(10, 6);
    expect(noticedAt(10, 400)).toBeCloseTo(50, 6);
    // Twice as far away is half as large.
    for (const size of [9, 24, 60, 150, 400]) expect(noticedAt(2 * size, 800)).toBeCloseTo(noticedAt(size, 400), 9);
    expect(readingDistance('flyer', { widthPt: 420, heightPt: 595 })).toBe(ARM_MM);
    expect(readingDistance('poster', { widthPt: 1191, heightPt: 1684 })).toBeGreaterThan(2 * ARM_MM);
    const block = styled('Wave Tower', { kerning: 'shape', sizePt: 30 }, { hand: [{ at: 2, milliem: 18 }] });
    const seen = (distanceMm: number) => inspectBlock(block, setBlock(block, faces), faces, { ...JUDGING, distanceMm });
    const gaps = ({ findings }: ReturnType<typeof seen>) => findings.filter(({ rule }) => rule.startsWith('gap-'));
    expect(gaps(seen(400)).map(({ at }) => at)).toEqual([2]);
    expect(gaps(seen(1500))).toEqual([]);
    expect(seen(400).evennessProposed).toBe(seen(1500).evennessProposed);
  });

  it('follows the designer’s own hand: a gap should hold what they make of such pairs', () => {
    const block = styled('AVATAR', { kerning: 'shape' });
    const [gap] = viewOf(block, setBlock(block, faces), faces).lines.flat();
    const kind = gap?.pair ?? '';
    const taste = Array.from({ length: 25 }).reduce<Taste>((now) => decided(now, { kind, proposedMilliem: -60, chosenMilliem: -90 }), NO_TASTE);
    const [own] = viewOf(block, setBlock(block, faces), faces, { ...JUDGING, taste }).lines.flat();
    expect(own?.plainMilliem).toBe(gap?.shouldMilliem ?? 0);
    expect((own?.shouldMilliem ?? 0) / (gap?.shouldMilliem ?? 1)).toBeCloseTo(1.48, 1);
    const { findings } = inspectBlock(block, setBlock(block, faces), faces, { ...JUDGING, taste });
    expect(findings.some(({ at, rule }) => at === gap?.at && rule === 'gap-open')).toBeTrue();
    // An inspector measures anew for another hand.
    const inspector = new Inspector(() => faces);
    const setting = setBlock(block, faces);
    expect(inspector.inspect(block, setting).findings).toEqual([]);
    expect(inspector.inspect(block, setting, { ...JUDGING, taste }).findings.length).toBeGreaterThan(0);
  });

  it('turns right what is typed, and where the caret is then; what stands before it is let be', () => {
    const type = (text: string, language: string | null = null): string => {
      let [words, caret] = ['', 0];
      for (const character of text) {
        words = words.slice(0, caret) + character + words.slice(caret);
        const help = helpTyping(words, caret + 1, language);
        words = help.splices.reduce((now, { start, end, insert }) => now.slice(0, start) + insert + now.slice(end), words);
        caret = help.caret;
        expect(caret).toBe(words.length);
      }
      return words;
    };
    expect(type('"It\'s here," she said')).toBe('“It’s here,” she said');
    expect(type('two  nights')).toBe('two nights');
    expect(type('wait...')).toBe('wait…');
    expect(type('a night--or two')).toBe('a night—or two');
    expect(type('eine Nacht - oder zwei', 'de')).toBe('eine Nacht – oder zwei');
    expect(type('"Nacht"', 'de-AT')).toBe('„Nacht“');
    expect(type('Venez !', 'fr')).toBe('Venez\u202f!');
    expect(type('3 x 4 m')).toBe('3 × 4 m');
    expect(type("6' tall")).toBe('6′ tall');
    // A space that may be left out on purpose is not put in, and nothing on other lines or before the caret's place is touched.
    expect(type('a,b')).toBe('a,b');
    expect(helpTyping('"old" marks\nnew', 15, null).splices).toEqual([]);
    expect(helpTyping('"old" marks', 11, null).splices).toEqual([]);
  });

  it('has one definition a rule, each with a pass', () => {
    expect(new Set(FINDING_RULES.map(({ id }) => id)).size).toBe(FINDING_RULES.length);
    for (const { id, pass } of FINDING_RULES) {
      expect(pass).withContext(id).not.toBe('');
      expect(ruleOf(id)?.id).toBe(id);
    }
  });

  it('prefers the designer’s kerning over none in headline words of every shipped family', async () => {
    const words = ['AVATAR', 'Wave Tower', 'FALLING STARS', 'Yonder Valley', 'LATVIA', 'To Watch'];
    const ids = ['playfair-display-bold', 'eb-garamond-regular', 'alegreya-medium', 'source-sans-3-bold', 'josefin-sans-semibold'];
    const own = await shippedFaces(...ids);
    let better = 0;
    for (const faceId of ids) {
      for (const text of words) {
        const [kerned, bare] = (['font', 'off'] as const).map((kerning) => {
          const block = styled(text, { faceId, kerning });
          return inspectBlock(block, setBlock(block, own), own).evenness ?? 0;
        });
        if ((kerned ?? 0) > (bare ?? 0)) better++;
      }
    }
    expect(better).toBeGreaterThanOrEqual(0.95 * ids.length * words.length);
  });

  it('measures again only the line that a kerning key has touched, with the same result', () => {
    const inspector = new Inspector(() => faces);
    const block = headline('AVATAR\nTWO NIGHTS\nLATVIA');
    const again = (next: Block) => inspector.inspect(next, setBlock(next, faces));
    expect(again(block)).toEqual(inspect(block));
    expect(inspector.measured).toBe(3);
    const kerned = { ...block, hand: [{ at: 9, milliem: -30 }] };
    expect(again(kerned)).toEqual(inspect(kerned));
    expect(inspector.measured).toBe(4);
    const restyled = { ...kerned, style: { ...kerned.style, sizePt: 50 } };
    expect(again(restyled)).toEqual(inspect(restyled));
    expect(inspector.measured).toBe(7);
  });

  it('says which rule failed, and keeps what it found before and what the others find', () => {
    const block = styled('AVATAR', { kerning: 'off' });
    let looked = 0;
    const failing: Rule = {
      ...{ id: 'failing', pass: 'edges', name: 'Failing rule' },
      looksAt: 'gap',
      look: ({ gap }) => {
        if (++looked === 3) throw new Error('out of reach');
        return [{ at: gap.at, severity: 'notice', visiblePt: 1, subject: 'x', message: 'found' }];
      },
    };
    const ofSheet: Rule = {
      ...{ id: 'sheet-failing', pass: 'edges', name: 'Failing sheet rule' },
      looksAt: 'sheet',
      look: () => [].at(1)!['x'],
    };
    const all = new Inspector(() => faces, [failing, ofSheet, ...FINDING_RULES]);
    const { findings } = all.inspect(block, setBlock(block, faces));
    expect(findings.filter(({ rule }) => rule === 'failing').map(({ message }) => message)).toEqual(['found', 'found', 'not checked: out of reach']);
    expect(findings.filter(({ failed }) => failed).map(({ subject, blockId }) => [subject, blockId])).toEqual([['Failing rule', block.id]]);
    expect(findings.filter(({ rule }) => rule === 'gap-open').length).toBe(found(block, 'gap-open').length);
    const { blocks: _, ...sheet } = createJob('t', () => 's').sheets[0]!;
    expect(all.inspectSheet(sheet, [block.id]).find(({ failed }) => failed)?.name).toBe('Failing sheet rule');
  });

  it('says of a block that can’t be measured just that', () => {
    const block = styled('AVATAR', {});
    const bent = { ...setBlock(block, faces), lines: [undefined] } as unknown as ReturnType<typeof setBlock>;
    const { findings, evenness } = new Inspector(() => faces).inspect(block, bent);
    expect([findings.map(({ failed, name, blockId }) => [failed, name, blockId]), evenness]).toEqual([[[true, 'Measuring', block.id]], undefined]);
  });
});
