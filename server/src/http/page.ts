import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type RequestHandler, Router } from 'express';
import staticFiles from 'express-static-gzip';
import * as z from 'zod';
import { nonceOf, shellPolicy } from './security';

/** The placeholder of the nonce in the built page. */
const NONCE_MARK = 'CSP_NONCE';

/** Serves the built page: hashed files for a year, the document itself for every address that names no file. */
export function pageRouter(folder: string): Router {
  const router = Router();
  // The document is never sent as a file: it needs the nonce of its answer.
  router.get('/index.html', notThere);
  router.get('/shell.html', (request, response, next) => {
    const shell = join(folder, 'shell.html');
    if (!existsSync(shell)) {
      notThere(request, response, next);
      return;
    }
    const html = readFileSync(shell, 'utf8');
    response
      .set('cache-control', 'no-cache')
      .set('content-security-policy', shellPolicy(/ngCspNonce="([\w-]+)"/i.exec(html)?.[1] ?? ''))
      .type('html')
      .send(html);
  });
  router.use(
    // What the build has compressed is sent as it is; what it hasn't, the server compresses as it goes.
    staticFiles(folder, {
      enableBrotli: true,
      orderPreference: ['br'],
      index: false,
      serveStatic: {
        dotfiles: 'ignore',
        redirect: false,
        setHeaders: (response, path) => {
          response.setHeader('cache-control', /-[A-Z0-9]{8}\.\w+(\.br)?$/.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache');
        },
      },
    }),
  );
  const file = join(folder, 'index.html');
  router.get('/{*path}', (request, response, next) => {
    // What has a dot is a file that isn't here.
    if (request.path.includes('.')) {
      notThere(request, response, next);
      return;
    }
    if (!existsSync(file)) {
      response.status(503).type('text/plain').send('The page is not built yet: run "npm run build".');
      return;
    }
    response
      .set('cache-control', 'no-store')
      .type('html')
      .send(
        readFileSync(file, 'utf8')
          .replaceAll(NONCE_MARK, nonceOf(response))
          .replace('</head>', `${begun(folder, request.path, nonceOf(response))}</head>`),
      );
  });
  return router;
}

const script = z.string().regex(/^[\w-]+\.js$/);
const earlySchema = z.record(z.string(), z.object({ scripts: z.array(script), worker: script }));

/**
 * Links to the scripts an address will need, as the build has told (`scripts/page.mjs`), so that the browser fetches them at once,
 * and the worker, which begins beside them (`web/src/app/engine/early-worker.ts` takes it up).
 */
function begun(folder: string, path: string, nonce: string): string {
  const told = join(folder, '../early.json');
  if (!existsSync(told)) return '';
  const early = earlySchema.safeParse(JSON.parse(readFileSync(told, 'utf8'))).data ?? {};
  const [, needed] = Object.entries(early).find(([address]) => path.startsWith(address)) ?? [];
  if (!needed) return '';
  // It ends with the page (`web/src/app/engine/ends-with-page.ts`), though none of the application's scripts should get to run.
  const begin = `const worker=self.jentrixEarlyWorker=new Worker("${needed.worker}",{type:"module"});addEventListener("pagehide",()=>worker.terminate())`;
  const worker = `<script nonce="${nonce}">{${begin}}</script>`;
  return worker + needed.scripts.map((name) => `<link rel="modulepreload" href="${name}">`).join('');
}

const notThere: RequestHandler = (_request, response) => {
  response.status(404).type('text/plain').send('There is no such file.');
};
