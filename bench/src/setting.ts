/** Setting against bare HarfBuzz: the same text, shaped and read out through the same library, in the same run. */
import { type Block, createBlock } from '@jentrix/core/job';
import { setBlock } from '@jentrix/core/setting';
import { fontBytes, shippedFaces } from '@jentrix/core/testing';
import { medians, ms, printTable, ratio } from './table';

const HEADLINE = 'TWO NIGHTS\nTO WATCH\nA VALLEY OF\nFALLING STARS';
const COPY = 'Bring a blanket and leave the torch. Your eyes need twenty minutes to find the dark, then the valley fills with falling stars. ';

/** Letters that one sample sets, and samples. */
const SAMPLE = 3000;
const ROUNDS = 400;

const letters = (count: number): string => COPY.repeat(Math.ceil(count / COPY.length)).slice(0, count);

export async function benchSetting(): Promise<void> {
  const hb = await import('harfbuzzjs');
  const faces = await shippedFaces('playfair-display-bold');
  const font = new hb.Font(new hb.Face(new hb.Blob(fontBytes('playfair-display-bold'))));
  const buffer = new hb.Buffer();
  const bare = (paragraphs: readonly string[]): number => {
    let count = 0;
    for (const text of paragraphs) {
      buffer.clearContents();
      buffer.addText(text);
      buffer.guessSegmentProperties();
      hb.shape(font, buffer);
      count += buffer.getGlyphInfos().length + buffer.getGlyphPositions().length;
    }
    return count;
  };
  const block = (words: string): Block =>
    createBlock('b', words, { xPt: 0, yPt: 0, widthPt: 900, heightPt: 900 }, { faceId: 'playfair-display-bold', sizePt: 24, trackingMilliem: -8 });

  const rows: string[][] = [['text', 'bare HarfBuzz', 'setting', 'ratio', 'aim']];
  for (const [name, words] of [
    ['demo headline', HEADLINE],
    ['60 letters', letters(60)],
    ['600 letters', letters(600)],
    ['6,000 letters', letters(6000)],
  ] as const) {
    const paragraphs = words.split('\n');
    const subject = block(words);
    // Short texts many at a time: a clock reads no shorter.
    const times = Math.max(1, Math.round(SAMPLE / words.length));
    const repeated = (task: () => void) => () => {
      for (let i = 0; i < times; i++) task();
    };
    const sums = medians(
      ROUNDS,
      repeated(() => {
        bare(paragraphs);
      }),
      repeated(() => {
        setBlock(subject, faces);
      }),
    );
    const [one = Number.NaN, two = Number.NaN] = sums.map((sum) => sum / times);
    rows.push([name, ms(one), ms(two), ratio(two / one), name === 'demo headline' ? '' : '<= 1.50x']);
  }
  printTable('Setting (shaping, tracking, breaking, placing) against bare HarfBuzz, medians', rows);
}
