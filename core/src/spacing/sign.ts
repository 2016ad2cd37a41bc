/** The kind of a character in a gap that is no letter, by its Unicode properties: figures, and marks and symbols of all kinds. */
export type SignKind = 'figure' | 'sign';

/** The kind of the character that begins at an offset; undefined for letters, and for what Unicode says nothing of. */
export function signKindAt(words: string, at: number): SignKind | undefined {
  const code = words.charCodeAt(at);
  if (code < 0x80) {
    if (code >= 0x30 && code <= 0x39) return 'figure';
    const letter = (code >= 0x41 && code <= 0x5a) || (code >= 0x61 && code <= 0x7a);
    return letter || code <= 0x20 ? undefined : 'sign';
  }
  const character = String.fromCodePoint(words.codePointAt(at) ?? 0);
  if (/\p{L}/u.test(character)) return undefined;
  if (/\p{Nd}/u.test(character)) return 'figure';
  return /[\p{N}\p{P}\p{S}]/u.test(character) ? 'sign' : undefined;
}

/** The facts a character tells beside its shape. */
export interface CharacterKind {
  /** Says that it is no letter. */
  sign: SignKind | undefined;
  /** True for a letter with a mark of its own, as an accent, by its canonical decomposition. */
  accented: boolean;
}

/** The kind of the character that begins at an offset. */
export function characterAt(words: string, at: number): CharacterKind {
  const code = words.codePointAt(at) ?? 0;
  return { sign: signKindAt(words, at), accented: code >= 0xc0 && /^\p{L}\p{M}/u.test(String.fromCodePoint(code).normalize('NFD')) };
}
