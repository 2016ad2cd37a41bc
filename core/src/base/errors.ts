/** An error whose `message` is worded for people: it can be shown as it is. All typed errors of Jentrix are of this kind. */
export abstract class WordedError extends Error {}

/** A file that came in can't be read. */
export abstract class FileError extends WordedError {}

/** The result of a parser; undefined where it throws. */
export function tried<T>(parse: () => T): T | undefined {
  try {
    return parse();
  } catch {
    return undefined;
  }
}

/**
 * Reads something that comes from outside: whatever its reader throws is said in words.
 * @param say makes the error. @throws WordedError; the error of WebAssembly, after which nothing can be trusted, as it is
 */
export function inWords<T>(read: () => T, say: (message: string) => WordedError): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof WordedError || (typeof WebAssembly !== 'undefined' && error instanceof WebAssembly.RuntimeError)) throw error;
    const said = say(
      error instanceof RangeError && /call stack/i.test(error.message) ? 'Its parts are nested too deep.' : 'Something in it can’t be understood.',
    );
    said.cause = error;
    throw said;
  }
}
