import { jobJsonSchema, jobSchema } from '@jentrix/core/job';
import fc from 'fast-check';
import { type JsonSchema, fromSchema } from './from-schema';
import { soundJob } from './inputs';

describe('jobs made from their schema', () => {
  it('are jobs, and have everything the format has', () => {
    const seen = new Set<string>();
    const note = (value: unknown, path: string): void => {
      seen.add(path);
      if (Array.isArray(value)) for (const one of value) note(one, path);
      else if (typeof value === 'object' && value !== null) {
        if ('kind' in value) seen.add(`${path}=${String(value.kind)}`);
        for (const [key, one] of Object.entries(value)) if (one !== null) note(one, `${path}.${key}`);
      }
    };
    let sound = 0;
    for (const job of fc.sample(soundJob, { numRuns: 300, seed: 7 })) {
      if (jobSchema.safeParse(job).success) sound++;
      note(job, 'job');
    }
    expect(sound).toBeGreaterThan(290);
    const block = 'job.sheets.blocks';
    for (const path of [
      'path=arc',
      'path=wave',
      'path=drawn',
      'fit',
      'ends',
      'edges',
      'lineIndents',
      'tightened',
      'runs',
      'hand',
      'style.gradient',
      'style.shadow',
      'style.baselineShiftMilliem',
    ]) {
      expect(seen).toContain(`${block}.${path}`);
    }
    expect(seen).toContain('job.sheets.reference');
  });

  it('follow what a schema says, and a kind of schema that nobody knows is told of', () => {
    const schema: JsonSchema = {
      type: 'object',
      properties: { n: { type: 'integer', minimum: 3, maximum: 5 }, s: { type: 'string', pattern: '^[ab]{2}$' } },
      required: ['n', 's'],
    };
    for (const one of fc.sample(fromSchema(schema), 100) as { n: number; s: string }[]) {
      expect(one.n >= 3 && one.n <= 5 && /^[ab]{2}$/.test(one.s)).toBeTrue();
    }
    expect(() => fromSchema({ type: 'anything' })).toThrowError(/Nothing is made of/);
    expect(() => fromSchema(jobJsonSchema() as JsonSchema)).not.toThrow();
  });
});
