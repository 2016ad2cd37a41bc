/** Largest job in a request, in bytes. */
export const MAX_JOB_BYTES = 4 * 1024 * 1024;

/** Largest job with the pulls its file held, in bytes. */
export const MAX_FILE_BYTES = 12 * 1024 * 1024;
