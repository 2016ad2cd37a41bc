declare module 'linebreak' {
  /** Iterates the break opportunities of UAX #14; positions are UTF-16 offsets. */
  export default class LineBreaker {
    constructor(text: string);
    nextBreak(): { position: number; required: boolean } | null;
  }
}
