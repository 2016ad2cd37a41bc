import { WordedError } from '../base';

/** The problems of a file offered as a font. */
export type FaceErrorCode =
  | 'empty'
  | 'not-a-font'
  | 'truncated'
  | 'damaged'
  | 'missing-table'
  | 'no-glyphs'
  | 'no-outlines'
  | 'collection'
  | 'no-such-font'
  | 'too-large'
  | 'unsupported';

/** A font file that can't be opened, with a reason a person can read in `message`. */
export class FaceError extends WordedError {
  override readonly name = 'FaceError';

  constructor(
    /** Machine-readable reason. */
    readonly code: FaceErrorCode,
    message: string,
  ) {
    super(message);
  }
}
