import { WordedError } from '@jentrix/core/base';

/** Something is wrong with what the command was given: told on standard error, exit status 2. */
export class UsageError extends WordedError {
  override readonly name = 'UsageError';
}
