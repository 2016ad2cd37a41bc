import { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { ProblemError } from './problem';

/** A requested address: a method, and a path as Express writes it. */
interface Address {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  readonly path: string;
}

/** Refuses more of some addresses' work than so much a minute, all of them counted together. They are found as any route is. */
export function limited(addresses: readonly Address[], perMinute: number): Router {
  const limit = rateLimit({
    windowMs: 60_000,
    limit: perMinute,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    // Its checks of how it is used take longer than all else of starting it.
    validate: false,
    handler: () => {
      throw new ProblemError(429, 'too-many', 'Too many pictures at once', 'Wait a minute, then try again.');
    },
  });
  const router = Router();
  for (const { method, path } of addresses) router[method](path, limit);
  return router;
}
