import { sized } from '@jentrix/core/testing';
import { fuzz } from './fuzz';

/** `npm run fuzz -- 100000` is for the night. */
const INPUTS = sized(120, 1000);

describe('fuzz of the HTTP API', () => {
  it(
    `${INPUTS} hostile jobs, pictures, fonts and requests leave the server as it was`,
    async () => {
      const { inputs, statuses } = await fuzz(20_260_812, INPUTS);
      expect(inputs).toBe(INPUTS);
      // Both what is taken and what is refused must be among them, or the inputs test nothing.
      expect(statuses.get(201) ?? 0).toBeGreaterThan(INPUTS / 10);
      expect(statuses.get(422) ?? 0).toBeGreaterThan(INPUTS / 10);
    },
    20 * 60_000,
  );
});
