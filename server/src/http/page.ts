import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import express, { Router } from 'express';
import { nonceOf } from './security';

/** What the built page carries where the nonce of each answer goes. */
const NONCE_MARK = 'CSP_NONCE';

/** Serves the built page: hashed files for a year, the document itself for every address that is not a file. */
export function pageRouter(folder: string): Router {
  const router = Router();
  router.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, path) => {
        response.setHeader('cache-control', /-[A-Z0-9]{8}\.\w+$/.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache');
      },
    }),
  );
  const file = join(folder, 'index.html');
  router.get('/{*path}', (_request, response) => {
    if (!existsSync(file)) {
      response.status(503).type('text/plain').send('The page is not built yet: run "npm run build".');
      return;
    }
    response
      .set('cache-control', 'no-store')
      .type('html')
      .send(readFileSync(file, 'utf8').replaceAll(NONCE_MARK, nonceOf(response)));
  });
  return router;
}
