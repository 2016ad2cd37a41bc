import { WordedError } from '../errors';

/** Something is wrong with what the command was given: told on standard error, exit status 2. */
export class UsageError extends WordedError {
  override readonly name = 'UsageError';
}

export const HELP = `jentrix: measures and refines the spacing of letters.

  jentrix gaps --font FILE --text TEXT [--axes wght=700,wdth=90] [--size PT] [--tracking N] [--strength S] [--json] [--no-font-kerning]
  jentrix gaps --font FILE --pairs FILE [--axes …] [--strength S] [--no-font-kerning]
  jentrix refine JOB.json -o OUT.json [--strength S] [--faces DIR]
  jentrix check JOB.json [--json] [--faces DIR]

gaps    Every gap of a text: the two letters; fontMilliem, the font's own kerning; shapeMilliem, the kerning proposed from the
        shapes alone, relative to the unkerned advance; whiteMilliem, the measured white of the gap as set (font kerning and
        tracking included) and targetMilliem, what the face's rhythm wants there; distancePt, the shortest distance between
        the inks. With --pairs (one pair a line) a line of JSON for each pair, in order.
refine  Writes the job with all its words kerned by shape; hand kerning stays on top.
check   Prints the findings of a job, most visible first. Exit status 1 where one is severe.

  --font FILE          TTF, OTF, WOFF or WOFF2
  --axes LIST          position of a variable font, such as wght=700,wdth=90
  --size PT            type size in points (72)
  --tracking N         in 1/1000 em (0)
  --strength S         multiplies proposals, 0 to 2 (1)
  --no-font-kerning    takes the font's GPOS and kern tables away before it is opened: proposals stay the same
  --faces DIR          where the job's faces are (the shipped ones)
  --json               JSON instead of a table
  -o, --output FILE    where to write
  -h, --help           this

Values named Milliem are 1/1000 em of the letter left of the gap; values named Pt are points (1/72 in).
Exit status: 0 done, 1 severe findings, 2 a mistake in what was given, told on standard error.
`;
