import * as z from 'zod';

/** A switch, as a query or a command says it. */
export const onOrOff = z.union([z.boolean(), z.enum(['true', 'false']).transform((text) => text === 'true')]).default(false);
