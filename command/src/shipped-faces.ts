import { fileURLToPath } from 'node:url';

/** The folder of the faces that Jentrix comes with. */
export const SHIPPED_FACES = fileURLToPath(new URL('../../faces/', import.meta.url));
