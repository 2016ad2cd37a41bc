import fc from 'fast-check';
import { createBlock, createJob, styledRanges } from '../job';
import { pastePassage } from '../wording';
import { faceLike, isRich, passageOf, readHtml } from '.';

const said = (html: string) =>
  readHtml(html).map(({ heading, list, pieces }) => [
    heading,
    list,
    ...pieces.map(({ text, bold, italic, sizePt, colour }) =>
      [text, `${bold ? 'b' : ''}${italic ? 'i' : ''}`, sizePt ?? '', colour ?? ''].filter((one) => one !== '').join(' '),
    ),
  ]);

describe('rich text', () => {
  it('is read from HTML: paragraphs, headings, lists, and what words look like', () => {
    expect(said('<h2>Late  tide</h2><p>Come <b>early</b>, <i>stay <b>late</b></i>.<br>Bring tea</p>')).toEqual([
      [2, 'none', 'Late tide b'],
      [0, 'none', 'Come ', 'early b', ', ', 'stay  i', 'late bi', '.', '\n', 'Bring tea'],
    ]);
    expect(said('<ul><li>one</li><li> two </li></ul>plain<ol><li>first</li></ol>')).toEqual([
      [0, 'bullet', 'one'],
      [0, 'bullet', 'two'],
      [0, 'none', 'plain'],
      [0, 'number', 'first'],
    ]);
    expect(said('<span style="font-size:24px;color:rgb(255, 0, 0)">Red <b style="font-weight:normal">not</b></span><font color="#00f">blue</font>')).toEqual([
      [0, 'none', 'Red  18 #ff0000', 'not 18 #ff0000', 'blue #0000ff'],
    ]);
    expect(
      said('<div style="font-size:20pt"><span style="font-size:1.5em;font-weight:700;font-style:italic">a</span><span style="font-size:50%">b</span></div>'),
    ).toEqual([[0, 'none', 'a bi 30', 'b 10']]);
    expect(said('<p>a&nbsp; b</p><pre>x\n y</pre><p style="display:none">gone</p><style>p{}</style><script>1</script><p> </p>')).toEqual([
      [0, 'none', 'a b'],
      [0, 'none', 'x\ny'],
    ]);
    expect([isRich(readHtml('<p>plain</p>')), isRich(readHtml('<p>a<b>b</b></p>')), readHtml('')]).toEqual([false, true, []]);
  });

  it('is pasted among words: their face in the same family, their size and colour, all else as it is around them', () => {
    let n = 0;
    const job = createJob('Paste', () => `i${n++}`);
    const block = createBlock('b', 'Tide  out', { xPt: 0, yPt: 0, widthPt: 100, heightPt: 20 }, { faceId: 'one-regular', sizePt: 40, trackingMilliem: 12 });
    const whole = { ...job, sheets: [{ ...job.sheets[0]!, blocks: [block] }] };
    const face = (family: string, weight: number, italic: boolean) => ({ family, posture: { weight, italic } });
    const faces = new Map([
      ['one-regular', face('One', 400, false)],
      ['one-bold', face('One', 700, false)],
      ['one-italic', face('One', 400, true)],
      ['two-bold', face('Two', 700, false)],
    ]);
    const faceFor = (pose: { bold: boolean; italic: boolean }): string => (pose.bold || pose.italic ? faceLike(faces, 'one-regular', pose) : 'one-regular');
    const passage = passageOf(readHtml('<p>is <b>well</b></p><p><i style="color:#123456">far</i></p>'), block.style, faceFor);
    const pasted = pastePassage(whole, 'b', 5, 5, passage).sheets[0]!.blocks[0]!;
    expect(pasted.words).toBe('Tide is well\nfar out');
    expect(
      styledRanges(pasted, 0, pasted.words.length).map(({ start, end, style }) => [
        pasted.words.slice(start, end),
        style.faceId,
        style.colour,
        style.trackingMilliem,
      ]),
    ).toEqual([
      ['Tide is ', 'one-regular', block.style.colour, 12],
      ['well', 'one-bold', block.style.colour, 12],
      ['\n', 'one-regular', block.style.colour, 12],
      ['far', 'one-italic', '#123456', 12],
      [' out', 'one-regular', block.style.colour, 12],
    ]);
  });

  it('bears whatever HTML there is', () => {
    const deep = '<div><b>'.repeat(20_000);
    expect(readHtml(`${deep}x`).flatMap(({ pieces }) => pieces.map(({ text }) => text))).toEqual(['x']);
    const markup = fc.array(
      fc.oneof(
        fc.constantFrom('<p>', '</p>', '<b style="font-size:', 'px;color:', '">', '</b>', '<li>', '<h1>', '<!--', '&#x;', '<table><td>', '\u0000'),
        fc.string({ unit: 'binary', maxLength: 8 }),
      ),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(markup, (parts) => {
        for (const { pieces } of readHtml(parts.join(''))) {
          expect(pieces.length).toBeGreaterThan(0);
          for (const { text, sizePt } of pieces) expect([text.length > 0, sizePt === undefined || (sizePt >= 1 && sizePt <= 5000)]).toEqual([true, true]);
        }
      }),
      { numRuns: 300 },
    );
  });
});
