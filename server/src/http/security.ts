import { randomBytes } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import helmet from 'helmet';
import { ProblemError } from './problem';

/** The nonce of one answer, which the page's own style elements carry. */
export const nonceOf = (response: Response): string => String(response.locals['nonce']);

/**
 * Strict headers. Scripts come from this server only; WebAssembly may be compiled (HarfBuzz); style elements need the
 * nonce that the page was given.
 */
export function securityHeaders(): RequestHandler[] {
  return [
    (_request, response, next) => {
      response.locals['nonce'] = randomBytes(16).toString('base64');
      next();
    },
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", (_request, response) => `'nonce-${nonceOf(response as Response)}'`],
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
        },
      },
      strictTransportSecurity: false,
      referrerPolicy: { policy: 'no-referrer' },
    }),
  ];
}

/**
 * Refuses requests that were not meant for this server: a foreign Host header (DNS rebinding), and writes that another
 * site's page sends.
 * @param hosts host names the server answers to, without port.
 */
export function sameHostOnly(hosts: ReadonlySet<string>): RequestHandler {
  const hostname = (value: string): string | undefined => {
    try {
      return new URL(value).hostname;
    } catch {
      return undefined;
    }
  };
  return (request, _response, next) => {
    const host = hostname(`http://${request.headers.host ?? ''}`);
    if (!host || !hosts.has(host)) {
      throw new ProblemError(421, 'wrong-host', 'Wrong host', 'This server does not answer to that host name.');
    }
    const { origin } = request.headers;
    if (origin !== undefined && request.method !== 'GET' && request.method !== 'HEAD' && hostname(origin) !== host) {
      throw new ProblemError(403, 'cross-site', 'Not from here', 'Writes from other sites’ pages are refused.');
    }
    next();
  };
}
