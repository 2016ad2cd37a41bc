import { existsSync } from 'node:fs';
import type { NextFunction, Response } from 'express';

const TYPES: Readonly<Record<string, string>> = { ttf: 'font/ttf', otf: 'font/otf', woff: 'font/woff', woff2: 'font/woff2' };

/** Sends a font file with its media type (RFC 8081). Its folder may lie anywhere, in a hidden one too. */
export function sendFont(response: Response, file: string, next: NextFunction): void {
  const type = TYPES[file.split('.').pop() ?? ''] ?? 'application/octet-stream';
  // What the build has compressed is sent as it is.
  const compressed = response.req.acceptsEncodings('br') !== false && existsSync(`${file}.br`);
  const headers = { 'content-type': type, vary: 'accept-encoding', ...(compressed ? { 'content-encoding': 'br' } : {}) };
  response.sendFile(compressed ? `${file}.br` : file, { maxAge: '1h', dotfiles: 'allow', headers }, (error) => {
    if (error) next(error);
  });
}
