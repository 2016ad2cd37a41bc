import type { NextFunction, Response } from 'express';

const TYPES: Readonly<Record<string, string>> = { ttf: 'font/ttf', otf: 'font/otf', woff: 'font/woff', woff2: 'font/woff2' };

/** Sends a font file with its media type (RFC 8081). Its folder may lie anywhere, in a hidden one too. */
export function sendFont(response: Response, file: string, next: NextFunction): void {
  const type = TYPES[file.split('.').pop() ?? ''] ?? 'application/octet-stream';
  response.sendFile(file, { maxAge: '1h', dotfiles: 'allow', headers: { 'content-type': type } }, (error) => {
    if (error) next(error);
  });
}
