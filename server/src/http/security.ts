import { randomBytes } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import helmet from 'helmet';
import { ProblemError } from './problem';

/** The nonce of one answer, which the page's own style elements carry. */
export const nonceOf = (response: Response): string => String(response.locals['nonce']);

const withNonce = (_request: unknown, response: unknown): string => `'nonce-${nonceOf(response as Response)}'`;

const DIRECTIVES = {
  defaultSrc: ["'none'"],
  // One script stands in the document: the line that begins the engine (`page.ts`).
  scriptSrc: ["'self'", "'wasm-unsafe-eval'", withNonce],
  styleSrc: ["'self'", withNonce],
  // The one style attribute that ng-bootstrap's dialogs are born with: `z-index: 1055;`.
  styleSrcAttr: ["'unsafe-hashes'", "'sha256-ZImpjyxSqdretajIQ3vpAcTYroKrDlaSp3fWptNrHZo='"],
  imgSrc: ["'self'", 'data:', 'blob:'],
  fontSrc: ["'self'"],
  connectSrc: ["'self'"],
  workerSrc: ["'self'"],
  manifestSrc: ["'self'"],
  baseUri: ["'self'"],
  formAction: ["'self'"],
  frameAncestors: ["'none'"],
};

/**
 * The policy of the page that is kept for when there is no server. It is the same for everybody, so that what it holds can be told from
 * its hash; its nonce is no secret therefore, and lets in styles, but no scripts.
 */
export const shellPolicy = (nonce: string): string =>
  Object.entries({ ...DIRECTIVES, scriptSrc: ["'self'", "'wasm-unsafe-eval'"], styleSrc: ["'self'", `'nonce-${nonce}'`] })
    .map(
      ([name, values]) => `${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)} ${values.filter((value) => typeof value === 'string').join(' ')}`,
    )
    .join(';');

/**
 * Strict headers. Scripts come from this server only; WebAssembly may be compiled (HarfBuzz); scripts and styles that stand in the
 * document need the nonce that it was given.
 */
export function securityHeaders(): RequestHandler[] {
  return [
    (_request, response, next) => {
      response.locals['nonce'] = randomBytes(16).toString('base64');
      next();
    },
    helmet({
      contentSecurityPolicy: { useDefaults: false, directives: DIRECTIVES },
      strictTransportSecurity: false,
      referrerPolicy: { policy: 'no-referrer' },
    }),
  ];
}

/** The values by which a browser marks requests from another page (Fetch Metadata, section 2.4). */
const FOREIGN_SITES = new Set(['cross-site', 'same-site']);

/**
 * Refuses requests that were not meant for this server: a foreign Host header (DNS rebinding), and whatever a page of another
 * origin asks for; another port is another origin.
 * @param hosts host names the server answers to, without port. @param open whether what is asked for may be opened from a link elsewhere,
 * which is nobody's harm for the page itself
 */
export function ownPagesOnly(hosts: ReadonlySet<string>, { open }: { open: boolean }): RequestHandler {
  const parsed = (value: string): URL | undefined => (URL.canParse(value) ? new URL(value) : undefined);
  return (request, _response, next) => {
    const own = parsed(`${request.protocol}://${request.headers.host ?? ''}`);
    if (!own || !hosts.has(own.hostname)) {
      throw new ProblemError(421, 'wrong-host', 'Wrong host', 'This server does not answer to that host name.');
    }
    const { origin } = request.headers;
    const site = request.get('sec-fetch-site');
    const opened = open && request.get('sec-fetch-mode') === 'navigate' && request.method === 'GET';
    const foreign = (origin !== undefined && parsed(origin)?.origin !== own.origin) || (site !== undefined && FOREIGN_SITES.has(site));
    if (foreign && !opened) throw new ProblemError(403, 'cross-site', 'Not allowed from here', 'Requests from pages of other sites are refused.');
    next();
  };
}
