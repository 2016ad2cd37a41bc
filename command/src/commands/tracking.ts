/** `jentrix tracking`: what a size asks for, and why. */
import { adviseTracking, inCapitals } from '@jentrix/core/advice';
import { type Command, numberOf } from '../command';
import { openFontFile } from '../fonts';
import { UsageError } from '../usage-error';
import { axesOf } from './gaps';

export const tracking: Command = {
  name: 'tracking',
  usage: ['--font FILE [--text TEXT] [--size PT] [--axes wght=700,wdth=90] [--dark] [--json]'],
  says:
    'The tracking that a face asks for at a size, in 1/1000 em, and why in one line: the larger the tighter, capitals and light letters on dark ground (--dark) ' +
    'wider. Fixed-pitch faces, pixel faces and connected scripts get none. Words in capitals are told from --text.',
  example: '--font Headline.otf --text "FALLING STARS" --size 96',
  options: ['font', 'text', 'size', 'axes', 'dark', 'json'],
  async run(values, _files, { out }) {
    if (values.font === undefined) throw new UsageError('--font FILE is needed.');
    const sizePt = numberOf('size', values.size, 1, 5000);
    const face = await openFontFile(values.font);
    const how = { capitals: inCapitals(values.text ?? '', 'typed'), lightOnDark: values.dark };
    const advice = adviseTracking(face.instance(axesOf(values.axes)), how);
    const trackingMilliem = Math.round(advice.at(sizePt)) || 0;
    const reasons = advice.reasonsAt(sizePt);
    out(values.json ? `${JSON.stringify({ sizePt, trackingMilliem, reasons, suitsPt: Math.round(advice.suitsPt) })}\n` : `${trackingMilliem}: ${reasons}\n`);
    return 0;
  },
};
