import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SHEET_FORMATS, optionsOf, readJobFile, writeJobFile } from '@jentrix/core/formats';
import { allBlocks, circleOf, createJob, updateBlock, withHand } from '@jentrix/core/job';
import type { PictureReading } from '@jentrix/core/reading';
import { blockFor, svgOf } from '@jentrix/core/testing/pictures';
import type { TypeRead } from '@jentrix/core/reference';
import type { FaceSet } from '@jentrix/core/setting';
import { fontBytes, shippedFaces, toCollection } from '@jentrix/core/testing';
import { COMMANDS } from './commands';
import { main } from './main';

const FONT = new URL('../../faces/playfair-display-bold.ttf', import.meta.url).pathname;
const POSTER = new URL('../../demo/1-perseids-poster.jentrix.json', import.meta.url).pathname;

describe('jentrix command', () => {
  let folder: string;
  beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'jentrix-cli-'))));
  afterAll(() => rmSync(folder, { recursive: true }));

  async function run(...argv: string[]): Promise<{ status: number; out: string; error: string }> {
    const heard = { out: '', error: '' };
    const status = await main(argv, { output: { out: (text) => (heard.out += text), error: (text) => (heard.error += text) } });
    return { status, ...heard };
  }
  const rows = async (...argv: string[]) => JSON.parse((await run('gaps', '--font', FONT, '--json', ...argv)).out) as Record<string, number>[];

  it('prints the gaps of a text', async () => {
    const gaps = await rows('--text', 'AVATAR', '--size', '100');
    expect(gaps.map(({ left, right }) => `${left}${right}`)).toEqual(['AV', 'VA', 'AT', 'TA', 'AR']);
    expect(gaps[0]?.['fontMilliem']).toBeLessThan(-50);
    expect(gaps[0]?.['shapeMilliem']).toBeLessThan(-50);
    expect((await rows('--text', 'şa', '--language', 'ro')).length).toBe(1);
    const tracked = await rows('--text', 'AVATAR', '--size', '100', '--tracking', '-20');
    expect((gaps[0]?.['distancePt'] ?? 0) - (tracked[0]?.['distancePt'] ?? 0)).toBeGreaterThan(1);
    expect((await run('gaps', '--font', FONT, '--text', 'AV')).out).toContain('shapeMilliem');
  });

  it('gives the white of a gap to picked ones, to all of its kind, to the same letters elsewhere', async () => {
    const from = join(folder, 'white.json');
    const to = join(folder, 'whiter.json');
    const job = readJobFile(readFileSync(POSTER, 'utf8'));
    const [block] = allBlocks(job);
    if (!block) throw new Error('No block');
    writeFileSync(from, writeJobFile(updateBlock(job, block.id, (one) => ({ ...one, words: 'VAHNHVA', runs: [], hand: [{ at: 1, milliem: 30 }], fit: null }))));
    const hand = (): number[] =>
      allBlocks(readJobFile(readFileSync(to, 'utf8')))
        .find(({ id }) => id === block.id)
        ?.hand.map(({ at }) => at) ?? [];
    expect((await run('white', from, '-o', to, '--at', '1', '--range', '3-4')).out).toContain('given to 2 gaps');
    expect(hand()).toEqual([1, 3, 4]);
    expect((await run('white', from, '-o', to, '--at', '1', '--everywhere', 'job')).status).toBe(0);
    expect(hand()).toEqual([1, 6]);
    expect((await run('white', from, '-o', to, '--at', '3', '--alike')).status).toBe(0);
    expect(hand()).toEqual([1, 4]);
    const said = JSON.parse((await run('white', from, '-o', to, '--at', '3', '--white', '200', '--range', '3', '--json')).out) as {
      whiteMilliem: number;
      hand: unknown[];
    };
    expect([said.whiteMilliem, said.hand.length]).toEqual([200, 1]);
    for (const wrong of [
      ['--at', '3'],
      ['--at', '0', '--alike'],
      ['--at', '1', '--alike', '--range', '3'],
      ['--at', '1', '--everywhere', 'town'],
    ])
      expect((await run('white', from, '-o', to, ...wrong)).status)
        .withContext(wrong.join(' '))
        .toBe(2);
  });

  it('opens one font of a collection by its style, its name or its number, and lists them otherwise', async () => {
    const file = join(folder, 'two.ttc');
    writeFileSync(file, toCollection(fontBytes('league-gothic-regular'), fontBytes('playfair-display-bold')));
    const gaps = async (font: string) => run('gaps', '--font', font, '--json', '--text', 'AVATAR');
    const alone = await gaps(FONT);
    for (const name of ['Bold', 'playfair display bold', '2']) expect(await gaps(`${file}#${name}`)).toEqual(alone);
    for (const name of ['', '#Black', '#3']) {
      const { status, error } = await gaps(`${file}${name}`);
      expect(status).toBe(2);
      expect(error).toContain('1 League Gothic Regular, 2 Playfair Display Bold');
    }
  });

  it('proposes the same without the font’s kerning', async () => {
    const [own, bare] = [await rows('--text', 'AVATAR To'), await rows('--text', 'AVATAR To', '--no-font-kerning')];
    expect(bare.map((gap) => gap['shapeMilliem'])).toEqual(own.map((gap) => gap['shapeMilliem']));
    expect(bare.every((gap) => gap['fontMilliem'] === 0)).toBeTrue();
  });

  it('answers batches of pairs in order, as lines of JSON', async () => {
    const pairs = Array.from({ length: 2000 }, (_, i) => ['AV', 'To', 'HH', 'xé', 'A字'][i % 5] ?? '');
    writeFileSync(join(folder, 'pairs'), `${pairs.join('\n')}\n`);
    const { out, status } = await run('gaps', '--font', FONT, '--pairs', join(folder, 'pairs'));
    expect(status).toBe(0);
    const lines = out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { pair: string; shapeMilliem: number; fontMilliem: number; missing?: boolean });
    expect(lines.map(({ pair }) => pair)).toEqual(pairs);
    const [text] = await rows('--text', 'AV');
    expect(lines[0]).toEqual({ pair: 'AV', fontMilliem: text?.['fontMilliem'] ?? 0, shapeMilliem: text?.['shapeMilliem'] ?? 0 });
    expect(lines[4]?.missing).toBeTrue();
  });

  it('gives a pair of a list what it gives it in a text, at any strength: inks stay apart', async () => {
    const font = FONT.replace(/[^/]*$/, 'eb-garamond-bold.ttf');
    writeFileSync(join(folder, 'crossing'), 'f’\nAV\n');
    for (const strength of ['0', '0.5', '2']) {
      const inText = await Promise.all(
        ['f’', 'AV'].map(
          async (text) =>
            (JSON.parse((await run('gaps', '--font', font, '--json', '--text', text, '--strength', strength)).out) as { shapeMilliem: number }[])[0]
              ?.shapeMilliem,
        ),
      );
      const { out } = await run('gaps', '--font', font, '--pairs', join(folder, 'crossing'), '--strength', strength);
      expect(
        out
          .trim()
          .split('\n')
          .map((line) => (JSON.parse(line) as { shapeMilliem: number }).shapeMilliem),
      )
        .withContext(strength)
        .toEqual(inText as number[]);
    }
  });

  it('refines an SVG, and many files at a time: resumed, told of, none stopped by one that fails', async () => {
    const [from, to] = [join(folder, 'from'), join(folder, 'to')];
    mkdirSync(join(from, 'inner'), { recursive: true });
    const svg = (words: string): string =>
      `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="200"><text font-family="Playfair Display" font-weight="700" font-size="60" x="20" y="90">${words}</text></svg>`;
    writeFileSync(join(from, 'one.svg'), svg('AVATAR LT'));
    writeFileSync(join(from, 'inner', 'two.svg'), svg('TOWN VAT'));
    writeFileSync(join(from, 'bad.svg'), 'no');
    cpSync(POSTER, join(from, 'job.json'));
    const single = join(folder, 'single.svg');
    expect((await run('refine', join(from, 'one.svg'), '-o', single)).status).toBe(0);
    const report = join(folder, 'many.json');
    const first = await run('refine', from, '--out', to, '--jobs', '2', '--report', report);
    expect([first.status, first.error.includes('bad.svg')]).toEqual([2, true]);
    expect(first.out).toContain('3 refined, 0 as they were made before, 1 failed');
    expect(readFileSync(join(to, 'one.svg'), 'utf8')).toBe(readFileSync(single, 'utf8'));
    const { files } = JSON.parse(readFileSync(report, 'utf8')) as {
      files: { file: string; state: string; before?: { evenness: number }; after?: { evenness: number } }[];
    };
    const two = files.find(({ file }) => file.endsWith('two.svg'));
    // What its font kerns well stays.
    expect(two?.after?.evenness).toBeGreaterThanOrEqual(two?.before?.evenness ?? 100);
    // Only what has changed since is refined again.
    writeFileSync(join(from, 'one.svg'), svg('WATCH'));
    expect((await run('refine', from, '--out', to)).out).toContain('1 refined, 2 as they were made before, 1 failed');
    // Two that would be written to one name are told before anything is written.
    cpSync(join(from, 'one.svg'), join(from, 'inner', 'one.svg'));
    const twice = await run('refine', join(from, 'one.svg'), join(from, 'inner', 'one.svg'), '--out', join(folder, 'twice'));
    expect([twice.status, twice.error.includes('Two of the files are called “one.svg”'), existsSync(join(folder, 'twice'))]).toEqual([2, true, false]);
    for (const wrong of [
      ['refine', from, '-o', single],
      ['refine', from, '--out', from],
      ['refine', from, '--out', join(from, 'one.svg')],
      ['refine', join(from, 'one.svg'), '-o', single, '--steps', 'words'],
      ['refine', join(folder, 'nowhere'), '--out', to],
    ])
      expect((await run(...wrong)).status)
        .withContext(wrong.join(' '))
        .toBe(2);
  });

  it('takes an SVG in as a job with its picture, with faces of any folder', async () => {
    const source = join(folder, 'poster.svg');
    writeFileSync(
      source,
      '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="200"><rect width="9" height="9"/><text font-family="Playfair Display" font-weight="700" font-size="60" x="20" y="90" dx="0 9">AV</text></svg>',
    );
    const fonts = join(folder, 'fonts');
    mkdirSync(fonts);
    cpSync(FONT, join(fonts, 'my-own.ttf'));
    writeFileSync(join(fonts, 'broken.otf'), 'x');
    const out = join(folder, 'taken', 'job.json');
    const { status, error } = await run('import', source, '-o', out, '--faces', fonts, '--title', 'Taken');
    expect([status, error.includes('broken.otf')]).toEqual([0, true]);
    const job = readJobFile(readFileSync(out, 'utf8'));
    expect([job.title, job.sheets[0]?.blocks[0]?.style.faceId]).toEqual(['Taken', 'my-own']);
    expect(job.sheets[0]?.blocks[0]?.hand[0]?.milliem).toBeCloseTo(150, 3);
    expect(readFileSync(join(folder, 'taken', 'pictures', 'poster-under.svg'), 'utf8')).not.toContain('<text');
    // What was taken in is set from the same folder.
    expect((await run('export', out, '-o', join(folder, 'taken.svg'), '--faces', fonts)).status).toBe(0);
    expect((await run('import', join(folder, 'nowhere.svg'), '-o', out)).status).toBe(2);
    const [block] = allBlocks(job);
    const alone = join(folder, 'alone.svg');
    expect((await run('export', out, '-o', alone, '--faces', fonts, '--block', block?.id ?? '')).status).toBe(0);
    expect(readFileSync(alone, 'utf8')).not.toContain('<image');
    expect((await run('export', out, '-o', alone, '--faces', fonts, '--block', 'none')).status).toBe(2);
  });

  it('reports on one job or several, as Markdown or JSON', async () => {
    const { status, out } = await run('report', POSTER, '--json');
    expect([status, (JSON.parse(out) as { title: string }).title]).toEqual([0, 'Wrayfold: Perseids poster']);
    expect(JSON.parse((await run('report', POSTER, POSTER, '--json')).out)).toEqual([JSON.parse(out), JSON.parse(out)]);
    const file = join(folder, 'report.md');
    expect((await run('report', POSTER, '-o', file)).status).toBe(0);
    expect(readFileSync(file, 'utf8')).toContain('| TWO NIGHTS | 122 pt |');
    expect((await run('report')).status).toBe(2);
  });

  it('writes pairs, and fonts with them under another name', async () => {
    const out = join(folder, 'pairs-of-poster');
    const { status, error } = await run('pairs', POSTER, '--out', out, '--name', 'Harbour Lamp');
    expect([status, error]).toEqual([0, '']);
    const gaps = JSON.parse((await run('gaps', '--font', join(out, 'fonts', 'HarbourLampA-Bold.ttf'), '--text', 'TWO', '--json')).out) as {
      left: string;
      right: string;
      fontMilliem: number;
    }[];
    const rows = readFileSync(join(out, 'pairs.csv'), 'utf8')
      .split('\n')
      .map((row) => row.split(','));
    expect(gaps.length).toBe(2);
    for (const { left, right, fontMilliem } of gaps) {
      const [, , , milliem] = rows.find(([face, a, b]) => face === 'playfair-display-bold' && a === left && b === right)!;
      expect(Math.abs(fontMilliem - Number(milliem))).toBeLessThan(1.1);
    }
    expect((await run('pairs', POSTER, '--out', out, '--name', 'My Playfair Display')).error).toContain('is reserved by its licence');
  });

  it('packs a job with its folders, takes a package wherever a job may stand, and puts it down again', async () => {
    const home = join(folder, 'packing');
    const [job, packed, down] = [join(home, 'a.jentrix.json'), join(home, 'a.jentrix.zip'), join(home, 'down', 'b.jentrix.json')];
    mkdirSync(home);
    cpSync(new URL('../../demo/pictures', import.meta.url).pathname, join(home, 'pictures'), { recursive: true });
    cpSync(POSTER, job);
    expect(await run('export', job, '-o', packed, '--format', 'package')).toEqual(jasmine.objectContaining({ status: 0, error: '' }));
    const drawn = async (file: string, ...more: string[]): Promise<string> => {
      const out = join(home, 'drawn.svg');
      expect((await run('export', file, '-o', out, ...more)).error).toBe('');
      return readFileSync(out, 'utf8');
    };
    const svg = await drawn(job);
    // A folder without the job's faces is enough: the package has them.
    const bare = join(home, 'bare');
    mkdirSync(bare);
    cpSync(new URL('../../faces/league-gothic-regular.ttf', import.meta.url).pathname, join(bare, 'league-gothic-regular.ttf'));
    expect(await drawn(packed, '--faces', bare)).toBe(svg);
    expect((await run('check', packed)).out).toBe((await run('check', job)).out);
    expect((await run('import', packed, '-o', down)).status).toBe(0);
    expect(readJobFile(readFileSync(down, 'utf8'))).toEqual(readJobFile(readFileSync(job, 'utf8')));
    expect(await drawn(down, '--faces', join(home, 'down', 'faces'))).toBe(svg);
    const again = join(home, 'again.jentrix.zip');
    expect((await run('export', down, '-o', again, '--format', 'package', '--faces', join(home, 'down', 'faces'))).status).toBe(0);
    expect(readFileSync(again).equals(readFileSync(packed))).toBeTrue();
    const spoilt = readFileSync(packed);
    spoilt[spoilt.length >> 1]! ^= 1;
    writeFileSync(packed, spoilt);
    for (const command of [
      ['check', packed],
      ['import', packed, '-o', down],
    ]) {
      const { status, error } = await run(...command);
      expect([status, error.includes('can’t be opened')]).toEqual([2, true]);
    }
  });

  it('refines a job and checks it', async () => {
    const out = join(folder, 'out.jentrix.json');
    expect((await run('check', POSTER)).status).toBe(1);
    expect((await run('refine', POSTER, '-o', out)).status).toBe(0);
    const refined = readJobFile(readFileSync(out, 'utf8'));
    expect(refined.sheets.every(({ blocks }) => blocks.every(({ style }) => style.kerning === 'weighed'))).toBeTrue();
    const { status, out: said } = await run('check', out, '--json');
    expect(status).toBe(0);
    expect((JSON.parse(said) as { evenness: number }).evenness).toBeGreaterThan(95);
  });

  it('does the first cut of a job step by step, and says what it did', async () => {
    const [out, report] = [join(folder, 'cut.jentrix.json'), join(folder, 'report.json')];
    const all = 'tracking,leading,kerning,words';
    expect((await run('refine', '--steps', all, POSTER, '-o', out, '--report', report)).status).toBe(0);
    interface Said {
      evenness: number | null;
      findings: number;
    }
    const said = JSON.parse(readFileSync(report, 'utf8')) as {
      before: Said;
      after: Said;
      steps: { step: string; before: Said; after: Said; items: unknown[] }[];
    };
    expect(said.steps.map(({ step }) => step)).toEqual(['words', 'tracking', 'leading', 'kerning']);
    expect(said.steps.flatMap(({ items }) => items).length).toBeGreaterThan(0);
    expect(said.after.findings).toBeLessThanOrEqual(said.before.findings);
    expect(said.after.evenness ?? 0).toBeGreaterThanOrEqual(said.before.evenness ?? 100);
    // Once more changes nothing.
    const again = join(folder, 'again.jentrix.json');
    expect((await run('refine', '--steps', all, out, '-o', again)).status).toBe(0);
    expect(readFileSync(again, 'utf8')).toBe(readFileSync(out, 'utf8'));
    const wrong = await run('refine', '--steps', 'tracking,colour', POSTER, '-o', out);
    expect([wrong.status, wrong.error.includes('colour')]).toEqual([2, true]);
  });

  it('exports sheets as SVG with outlines or text and as PNG, one or all, with their picture', async () => {
    const social = new URL('../../demo/3-social-graphics.jentrix.json', import.meta.url).pathname;
    const file = (name: string): string => join(folder, name);
    expect((await run('export', social, '-o', file('all.svg'), '--sheet', 'all')).status).toBe(0);
    const svg = ['all-01.svg', 'all-02.svg'].map((name) => readFileSync(file(name), 'utf8'));
    expect(svg.every((text) => text.includes('<path') && text.includes('data:image/svg+xml;base64,') && !text.includes('<text'))).toBeTrue();
    expect((await run('export', social, '-o', file('text.svg'), '--format', 'svg-text', '--sheet', '2')).status).toBe(0);
    expect(readFileSync(file('text.svg'), 'utf8')).toContain('<text');
    const png = await run('export', social, '-o', file('one.png'), '--format', 'png', '--scale', '2');
    expect([png.status, png.error]).toEqual([0, '']);
    const bytes = readFileSync(file('one.png'));
    expect([bytes.readUInt32BE(16), bytes.readUInt32BE(20)]).toEqual([2160, 2160]);
    expect((await run('export', social, '-o', file('bare.svg'), '--pictures', file('nowhere'))).error).toContain('is left out');
    for (const [argv, part] of [
      [['--format', 'gif'], 'svg-text'],
      [['--format', 'png', '--scale', '9'], '--scale'],
      [['--sheet', '3'], '--sheet'],
    ] as [string[], string][])
      expect(await run('export', social, '-o', file('x'), ...argv)).toEqual(jasmine.objectContaining({ status: 2, error: jasmine.stringContaining(part) }));
  });

  it('fits lines to a measure exactly, in what is drawn, says what is missing, and lets go', async () => {
    const flyer = new URL('../../demo/4-open-day-flyer.jentrix.json', import.meta.url).pathname;
    const file = (name: string): string => join(folder, name);
    /** Left and right of each line's ink in an SVG of one block, by the colours of the demo's lines: each is one of its own. */
    const inks = async (job: string): Promise<[number, number][]> => {
      expect((await run('draw', job, '-o', file('fit.svg'))).status).toBe(0);
      const group = /<g id="openday-lockup"[\s\S]*?(?=<g id=)/.exec(readFileSync(file('fit.svg'), 'utf8'))?.[0] ?? '';
      return group
        .split('<g fill=')
        .slice(1)
        .map((line) => {
          const xs = [...line.matchAll(/d="([^"]+)"/g)].flatMap(([, data = '']) => [...data.matchAll(/(-?[\d.]+),-?[\d.]+/g)].map(([, x]) => Number(x)));
          return [Math.min(...xs), Math.max(...xs)];
        });
    };
    const to = (...argv: string[]) => run('fit', flyer, '-o', file('fit.json'), '--block', 'openday-lockup', ...argv);
    expect((await to('--to', '100mm', '--by', 'size:2,letters:1', '--ink')).status).toBe(0);
    const lines = await inks(file('fit.json'));
    expect(lines.length).toBe(3);
    // Control points of curves may lie outside their ink by less than this.
    for (const [left, right] of lines) expect(Math.abs(right - left - (100 * 72) / 25.4)).toBeLessThan(0.6);
    expect((await run('fit', file('fit.json'), '-o', file('free.json'), '--release')).status).toBe(0);
    // Scripts that were written with the name it had still run.
    const released = readFileSync(file('free.json'), 'utf8');
    expect((await run('fit', file('fit.json'), '-o', file('free.json'), '--let-go')).status).toBe(0);
    expect(readFileSync(file('free.json'), 'utf8')).toBe(released);
    const free = await inks(file('free.json'));
    free.forEach(([left, right], i) => {
      expect(left).toBeCloseTo(lines[i]?.[0] ?? 0, 3);
      expect(right).toBeCloseTo(lines[i]?.[1] ?? 0, 3);
    });
    expect(readJobFile(readFileSync(file('free.json'), 'utf8')).sheets[0]?.blocks[0]?.fit).toBeNull();
    const wide = await to('--to', '320mm', '--by', 'width', '--lines', '1,3', '--json');
    expect(wide.status).toBe(1);
    const { lines: said } = JSON.parse(wide.out) as { lines: { line: number; missingPt: number; alone: { size: { value: number } } }[] };
    expect(said.map(({ line }) => line)).toEqual([1, 3]);
    expect(said[0]?.missingPt).toBeGreaterThan(100);
    expect(said[0]?.alone.size.value).toBeGreaterThan(2);
    for (const target of ['frame', 'margins', '20mm..90mm', 'openday-list', 'openday-list:1'])
      expect((await to('--to', target, '--by', 'size')).status)
        .withContext(target)
        .toBe(0);
    for (const [argv, part] of [
      [['--to', 'wide'], '--to'],
      [['--by', 'colour'], 'colour'],
      [['--by', 'size:0'], '--by'],
      [['--limits', 'size=2..1'], 'limits'],
      [['--ink', '--advance'], '--advance'],
      [['--lines', '0'], '--lines'],
    ] as [string[], string][])
      expect(await to(...argv)).toEqual(jasmine.objectContaining({ status: 2, error: jasmine.stringContaining(part) }));
  });

  it('lists what differs between two states of a job, with the lines it is in, and gives single changes back', async () => {
    const [refined, back] = [join(folder, 'refined.json'), join(folder, 'back.json')];
    await run('refine', POSTER, '-o', refined, '--steps', 'words,tracking,kerning');
    const hand = join(folder, 'hand.json');
    const job = readJobFile(readFileSync(refined, 'utf8'));
    writeFileSync(hand, JSON.stringify(withHand(job, 'perseids-headline', 12, -20)));
    interface Compared {
      before: { evenness: number; findings: number };
      after: { evenness: number; blocks: { widthPt: number }[] };
      changes: { says: string; line?: number }[];
    }
    const compared = async (...files: string[]) => JSON.parse((await run('compare', ...files, '--json')).out) as Compared;
    const { before, after, changes } = await compared(POSTER, hand);
    expect(after.evenness).toBeGreaterThan(before.evenness);
    expect(after.blocks.length).toBe(4);
    expect(changes.map(({ says }) => says)).toContain('Tracking: 0 → +14');
    const gap = changes.findIndex(({ line }) => line === 2);
    expect(changes[gap]?.says).toMatch(/: none → −20, line 2$/);
    expect((await run('compare', POSTER, hand, '--revert', `${gap + 1}`, '-o', back)).status).toBe(0);
    expect((await compared(back, refined)).changes).toEqual([]);
    expect((await run('compare', POSTER, hand, '--revert', 'all', '-o', back)).out).toContain(`${changes.length} changes`);
    expect((await run('compare', POSTER, back)).out).toContain('0 changes');
    const page = join(folder, 'proof.png');
    const sent = await run('proof', hand, '--before', POSTER, '-o', page);
    expect([sent.status, sent.error]).toEqual([0, '']);
    expect([...readFileSync(page).subarray(1, 4)]).toEqual([0x50, 0x4e, 0x47]);
    expect((await run('proof', hand, '--sheet', '9', '-o', page)).status).toBe(2);
    for (const wrong of [[POSTER], [POSTER, hand, '--revert', '99', '-o', back], [POSTER, hand, '--revert', 'all']])
      expect((await run('compare', ...wrong)).status).toBe(2);
  });

  it('exports with every option that a format has', async () => {
    const { OPTIONS } = await import('./options');
    const help = (await run('export', '--help')).out;
    for (const format of SHEET_FORMATS) {
      for (const name of optionsOf(format)) {
        expect(Object.keys(OPTIONS)).withContext(format.id).toContain(name);
        expect(help).withContext(format.id).toContain(`[--${name}`);
      }
    }
  });

  it('lists short last lines, fixes them, breaks otherwise, and gives back', async () => {
    const pocket = new URL('../../demo/5-pocket-programme.jentrix.json', import.meta.url).pathname;
    const out = join(folder, 'breaks.json');
    const listed = JSON.parse((await run('breaks', pocket, '--json')).out) as { block: string; fixes: { kind: string }[] }[];
    expect(listed.map(({ block }) => block)).toEqual(['pocket-quote']);
    expect((await run('breaks', pocket, '-o', out, '--block', 'pocket-quote', '--fix', 'best')).status).toBe(0);
    expect((await run('breaks', out)).out).toContain('0 short last lines');
    expect((await run('breaks', out, '-o', out, '--block', 'pocket-quote', '--fix', 'best')).status).toBe(2);
    const even = await run('breaks', pocket, '-o', out, '--block', 'pocket-title', '--way', 'even', '--shape', 'widening');
    expect([even.status, even.out.includes('rag')]).toEqual([0, true]);
    expect((await run('breaks', pocket, '-o', out, '--block', 'pocket-left', '--way', 'total', '--give', '20', '--widen', '2', '--last', 'full')).status).toBe(
      0,
    );
    const [, inside] = readJobFile(readFileSync(out, 'utf8')).sheets;
    expect(inside?.blocks.find(({ id }) => id === 'pocket-left')).toEqual(
      jasmine.objectContaining({ breaking: { way: 'total', shape: 'even' }, justify: { lettersMilliem: 20, width: 0.02, last: 'full' } }),
    );
    expect((await run('breaks', pocket, '-o', out, '--block', 'pocket-left', '--hyphenate', 'on')).status).toBe(0);
    expect(readFileSync(out, 'utf8')).toContain('tele\u00adscope');
    expect((await run('breaks', out, '-o', out, '--block', 'pocket-left', '--hyphenate', 'off')).status).toBe(0);
    expect(readFileSync(out, 'utf8')).not.toContain('\u00ad');
    expect((await run('breaks', pocket, '-o', out, '--way', 'loosely')).error).toContain('--way');
    expect((await run('breaks', out, '-o', out, '--fix', 'back')).status).toBe(0);
  });

  it('aligns edges by what is seen, hangs marks, indents and centres by ink', async () => {
    const out = join(folder, 'edges.json');
    const quote = ['--block', 'perseids-quote'];
    interface Row {
      offsetPt: number;
      seen: { leftPt: number };
      ink: { leftPt: number; rightPt: number };
    }
    const rows = async (...argv: string[]): Promise<Row[]> => JSON.parse((await run('edges', ...argv, '--json')).out) as Row[];
    const plain = await rows(POSTER, ...quote);
    expect(plain.map(({ offsetPt }) => offsetPt)).toEqual([0, 0, 0]);
    const seen = await rows(POSTER, ...quote, '-o', out, '--optical', '1', '--indent', '2=4mm');
    expect(seen[0]?.seen.leftPt).toBeCloseTo(seen[2]?.seen.leftPt ?? 0, 4);
    expect((seen[1]?.seen.leftPt ?? 0) - (seen[0]?.seen.leftPt ?? 0)).toBeCloseTo((4 * 72) / 25.4, 2);
    expect((await rows(out, ...quote, '-o', out, '--off'))[0]?.offsetPt).toBe(0);
    const boxed = await rows(POSTER, ...quote, '-o', out, '--centre', '100,100,800,400', '--axis', 'x');
    const [left, right] = [Math.min(...boxed.map(({ ink }) => ink.leftPt)), Math.max(...boxed.map(({ ink }) => ink.rightPt))];
    expect((left + right) / 2).toBeCloseTo(500, 3);
    for (const [argv, part] of [
      [['--hang', 'stars=1'], 'stars'],
      [['--indent', '9=4pt'], '--indent'],
      [['--centre', 'guides'], 'guides'],
      [['--centre', '1,2,3'], '--centre'],
      [['--centre', 'sheet', '--axis', 'z'], '--axis'],
      [['--optical', '3'], '--optical'],
    ] as [string[], string][])
      expect(await run('edges', POSTER, '-o', out, ...argv)).toEqual(jasmine.objectContaining({ status: 2, error: jasmine.stringContaining(part) }));
  });

  it('learns a designer’s hand from decisions, and gaps and findings follow it', async () => {
    interface Row {
      kind: string | null;
      plainMilliem: number;
      shouldMilliem: number;
    }
    const rows = async (...more: string[]) => JSON.parse((await run('gaps', '--font', FONT, '--json', '--text', WORDS, ...more)).out) as Row[];
    const WORDS = 'AVATAR TO WATCH TYPOGRAPHY LATVIA YONDER VALLEY TWO FAT WAVE TOWERS Two Yellow Kites Fly Over Today Wave Typing AVAIL PAVED';
    const plain = await rows();
    const taken = plain.filter(({ kind, plainMilliem, shouldMilliem }) => kind && Math.abs(plainMilliem) >= 8 && Math.abs(plainMilliem - shouldMilliem) < 1);
    expect(taken.length).toBeGreaterThan(20);
    const [decisions, taste] = [join(folder, 'decisions.json'), join(folder, 'taste.json')];
    writeFileSync(
      decisions,
      JSON.stringify(taken.map(({ kind, plainMilliem }) => ({ kind, proposedMilliem: plainMilliem, chosenMilliem: Math.round(plainMilliem * 1.3) }))),
    );
    const said = await run('taste', decisions, '-o', taste);
    expect(said.out).toContain('more than proposed');
    const error = (list: readonly Row[]): number =>
      list.reduce((sum, { shouldMilliem }, i) => sum + Math.abs(shouldMilliem - (plain[i]?.plainMilliem ?? 0) * 1.3), 0);
    expect(error(await rows('--taste', taste))).toBeLessThan(0.6 * error(plain));
    expect((await run('check', POSTER, '--taste', taste)).status).toBeLessThan(2);
    writeFileSync(join(folder, 'no-decisions.json'), '[{"kind":"round to round"}]');
    for (const argv of [['taste'], ['taste', join(folder, 'no-decisions.json')], ['gaps', '--font', FONT, '--text', 'x', '--taste', decisions]])
      expect((await run(...argv)).status)
        .withContext(argv.join(' '))
        .toBe(2);
  });

  it('sets words on paths, turns blocks, enlarges ends, and writes outlines of letters', async () => {
    const out = join(folder, 'shifted.json');
    const blockOf = (path: string) => readJobFile(readFileSync(path, 'utf8')).sheets[0]!.blocks[0]!;
    expect((await run('path', POSTER, '-o', out, '--path', 'arc', '--radius', '2000')).out).toContain('arc, rise');
    const { path } = blockOf(out);
    expect(path.kind === 'arc' && circleOf(path)?.radiusPt).toBeCloseTo(2000, 3);
    expect((await run('path', out, '-o', out, '--path', 'M0 0C100 -50 200 -50 300 0')).error).toContain('longer than the path');
    expect(blockOf(out).path.kind).toBe('drawn');
    await run('path', out, '-o', out, '--path', 'straight');
    expect(blockOf(out)).toEqual(blockOf(POSTER));
    for (const wrong of ['M', 'M0 0', 'spiral', '{"kind":"arc"}', '{', 'M0 0L1e9 0'])
      expect((await run('path', POSTER, '-o', out, '--path', wrong)).status)
        .withContext(wrong)
        .toBe(2);

    await run('turn', POSTER, '-o', out, '--along', '100,200,300,180');
    expect(blockOf(out).rotationDeg).toBeCloseTo(-5.7, 6);
    expect((await run('turn', POSTER, '-o', out, '--along', '1,1,1,1')).status).toBe(2);
    expect((await run('turn', POSTER, '-o', out, '--along', '0,0,9,0', '--and', '0,0,9,0')).error).toContain('the same');
    await run('ends', POSTER, '-o', out, '--of', 'lines', '--ratio', '1.4', '--level', 'top');
    expect(blockOf(out).ends).toEqual({ of: 'lines', which: 'both', ratio: 1.4, align: 'top' });
    await run('ends', out, '-o', out, '--ratio', '1');
    expect(blockOf(out).ends).toBeNull();

    const [one, two] = [await run('outlines', POSTER, '--range', '0'), await run('outlines', POSTER, '--range', '0-1')];
    expect(one.out).toMatch(/^M[-\d.]/);
    expect(two.out.startsWith(one.out.trim())).toBeTrue();
    expect((await run('outlines', POSTER, '--range', '5000')).status).toBe(2);
    expect((await run('outlines', POSTER, '--block', 'nobody')).error).toContain('no block');
  });

  it('tells mistakes on standard error with status 2', async () => {
    writeFileSync(join(folder, 'bad.ttf'), 'nothing');
    writeFileSync(join(folder, 'bad.json'), '{');
    writeFileSync(join(folder, 'bad-pairs'), 'AV\nABC\n');
    for (const [argv, part] of [
      [['gaps', '--font', join(folder, 'bad.ttf'), '--text', 'x'], 'too short'],
      [['gaps', '--font', join(folder, 'none.ttf'), '--text', 'x'], 'can’t be read'],
      [['gaps', '--text', 'x'], '--font'],
      [['gaps', '--font', FONT], '--text or --pairs'],
      [['gaps', '--font', FONT, '--text', 'x', '--size', 'big'], '--size'],
      [['gaps', '--font', FONT, '--text', 'x', '--axes', 'weight=7'], '--axes'],
      [['gaps', '--font', FONT, '--pairs', join(folder, 'bad-pairs')], 'Line 2'],
      [['check', join(folder, 'bad.json')], 'not JSON'],
      [['refine', POSTER], '-o'],
      [['rewrite'], 'no command'],
      [['gaps', '--nonsense'], 'nonsense'],
    ] as [string[], string][]) {
      const { status, error } = await run(...argv);
      expect(status).withContext(argv.join(' ')).toBe(2);
      expect(error).withContext(argv.join(' ')).toContain(part);
    }
    expect((await run('--help')).status).toBe(0);
    expect((await run('--help')).out).toContain('1/1000 em');
    for (const [called, load] of Object.entries(COMMANDS)) {
      const { name, example, options } = await load();
      expect(name).toBe(called);
      const { status, out } = await run(name, '--help');
      expect([status, out.includes(`jentrix ${name} ${example}`)]).toEqual([0, true]);
      // What an example uses is what the command takes.
      for (const [, option] of example.matchAll(/--([a-z-]+)/g))
        expect(options as readonly string[])
          .withContext(name)
          .toContain(option ?? '');
    }
  });

  it('exports pictures by width or by pixels an inch, and says what it does not take', async () => {
    const to = join(folder, 'sheet');
    expect((await run('export', POSTER, '-o', `${to}.jpg`, '--format', 'jpeg', '--width', '300', '--quality', '60')).out).toContain('300 × ');
    expect([...readFileSync(`${to}.jpg`).subarray(0, 3)]).toEqual([0xff, 0xd8, 0xff]);
    expect((await run('export', POSTER, '-o', `${to}.webp`, '--format', 'webp', '--ppi', '20', '--transparent')).status).toBe(0);
    expect(readFileSync(`${to}.webp`).toString('latin1', 8, 12)).toBe('WEBP');
    for (const bad of [
      ['--width', '10', '--ppi', '20'],
      ['--scale', '9'],
      ['--ppi', 'x'],
      ['--format', 'bmp'],
    ])
      expect((await run('export', POSTER, '-o', to, '--format', 'png', ...bad)).status)
        .withContext(bad.join(' '))
        .toBe(2);
  });

  describe('read', () => {
    const words = 'Perseids over\nthe salt marsh';
    let faces: FaceSet;
    beforeAll(async () => (faces = await shippedFaces('playfair-display-bold')));
    const picture = (sizePt: number, name: string, pixelsPerInch = 150) => {
      const block = blockFor(words, 'playfair-display-bold', { sizePt, trackingMilliem: 20, leading: 1.3 });
      const path = join(folder, name);
      writeFileSync(path, svgOf(block, faces, { pixelsPerInch, turnDeg: 1 }).svg);
      return path;
    };

    it('measures a picture, and with its words known what they are set in', async () => {
      const path = picture(40, 'read.svg');
      const { status, out } = await run('read', path, '--ppi', '150', '--json', '--font', FONT, '--text', words);
      const { type, picture: seen } = JSON.parse(out) as { type: TypeRead; picture: PictureReading };
      expect(status).toBe(0);
      expect(type.sizePt).toBeCloseTo(40, 0);
      expect(type.trackingMilliem).toBeCloseTo(20, -1);
      expect(type.leadingFactor).toBeCloseTo(1.3, 2);
      expect(seen.lines.length).toBe(2);
      const alone = await run('read', path, '--ppi', '150');
      expect(alone.status).toBe(0);
      expect(alone.out).toMatch(/^2 lines, rotated by (?:1|0\.9\d|1\.0\d)°/);
      expect(alone.out).toContain('x-height');
      expect((await run('read', path, '--font', FONT, '--text', words)).out).toContain('leading');
    });

    it('gives a block of a job what was read', async () => {
      const job = createJob('Match', () => crypto.randomUUID());
      const [block] = allBlocks(job);
      const [from, to] = [join(folder, 'match.json'), join(folder, 'matched.json')];
      writeFileSync(from, writeJobFile(updateBlock(job, block?.id ?? '', (now) => ({ ...now, words }))));
      expect((await run('read', picture(33, 'take.svg'), from, '--ppi', '150', '--apply', 'size,tracking,leading', '-o', to)).status).toBe(0);
      const [taken] = allBlocks(readJobFile(readFileSync(to, 'utf8')));
      expect(taken?.style.sizePt).toBeCloseTo(33, 0);
      expect(taken?.style.trackingMilliem).toBeCloseTo(20, -1);
      expect(taken?.words).toBe(words);
    });

    it('says what it can’t read', async () => {
      const path = picture(40, 'other.svg');
      const none = join(folder, 'none.svg');
      writeFileSync(none, '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90"><rect width="20" height="90"/></svg>');
      expect(await run('read', none)).toEqual({ status: 1, out: 'There is no type in the picture.\n', error: '' });
      expect((await run('read', path, '--font', FONT, '--text', 'Tea and cocoa')).status).toBe(1);
      for (const argv of [
        ['read'],
        ['read', POSTER],
        ['read', path, '--font', FONT],
        ['read', path, '--apply', 'size'],
        ['read', path, POSTER, '--apply', 'size'],
        ['read', path, POSTER, '--apply', 'hue', '-o', none],
      ])
        expect((await run(...argv)).status)
          .withContext(argv.join(' '))
          .toBe(2);
    });
  });

  it('drill deals, scores against both opinions, and refuses in words what is no exercise', async () => {
    const [exercise, answer] = [join(folder, 'exercise.json'), join(folder, 'answer.json')];
    const { out, status } = await run('drill', 'deal', '--practise', 'capitals', '--seed', '4');
    expect(status).toBe(0);
    writeFileSync(exercise, out);
    const { line } = JSON.parse(out) as { line: { designer: number[] } };
    writeFileSync(answer, JSON.stringify({ places: line.designer }));
    const scored = JSON.parse((await run('drill', 'score', exercise, answer)).out) as { score: number; designer: number; measured: number };
    expect([scored.score, scored.designer]).toEqual([100, 100]);
    expect(scored.measured).toBeLessThanOrEqual(100);
    for (const bad of ['{}', '[]', '{"kind":"place"}', '{"kind":"wrong","line":{"letters":[]},"answer":0,"by":1}']) {
      writeFileSync(exercise, bad);
      const refused = await run('drill', 'score', exercise, answer);
      expect([refused.status, refused.error.includes('is no exercise')])
        .withContext(bad)
        .toEqual([2, true]);
    }
    expect((await run('drill', 'deal', '--text', 'AB')).error).toContain('at least three letters');
  });
});
