/** An error whose `message` is worded for people: it can be shown as it is. All typed errors of Jentrix are of this kind. */
export abstract class WordedError extends Error {}

/** A file that came in can't be read. */
export abstract class FileError extends WordedError {}
