import { type OutsideFace, TokenError, readTokens, writeCss, writeTokens } from '../formats';
import { headline } from '../testing';
import { findBlock, restyle } from './edits';
import { applyRecipe, followersOf, leaveRecipe, recipeOverrides, recipeSchema, settingsOf, updateFollowers } from './recipes';
import { type Job, createJob, jobSchema } from '.';

describe('recipe', () => {
  const block = (id: string) => ({ ...headline('Two nights'), id });
  const job: Job = (() => {
    let n = 0;
    const made = createJob('Recipes', () => `s${n++}`);
    return { ...made, sheets: made.sheets.map((sheet) => ({ ...sheet, blocks: [block('a'), block('b')] })) };
  })();
  const settings = { ...settingsOf(block('a')), align: 'centre' as const, style: { ...block('a').style, sizePt: 40 } };
  const recipe = recipeSchema.parse({ id: 'r', name: 'Headline', settings });
  const outside = (): OutsideFace => ({ family: 'Playfair Display', weight: 700, italic: false });

  it('is followed, overridden visibly, cleared of overrides and left', () => {
    let now = applyRecipe(job, 'a', recipe);
    expect(jobSchema.safeParse(now).success).toBeTrue();
    expect([findBlock(now, 'a')?.style.sizePt, findBlock(now, 'a')?.align]).toEqual([40, 'centre']);
    expect(followersOf(now, 'r').map(({ id }) => id)).toEqual(['a']);
    now = restyle(now, 'a', { trackingMilliem: -9 });
    expect(recipeOverrides(findBlock(now, 'a') ?? block('a'), settings)).toEqual(['trackingMilliem']);
    const cleared = findBlock(applyRecipe(now, 'a', recipe), 'a');
    expect(cleared && recipeOverrides(cleared, settings)).toEqual([]);
    const left = findBlock(leaveRecipe(now, 'a'), 'a');
    expect([left?.recipeId, left?.style.trackingMilliem]).toEqual([null, -9]);
  });

  it('updates its followers where they have what it said, and keeps their overrides', () => {
    let now = applyRecipe(applyRecipe(job, 'a', recipe), 'b', recipe);
    now = restyle(now, 'b', { sizePt: 55 });
    const after = { ...settings, align: 'right' as const, style: { ...settings.style, sizePt: 48, colour: '#aa0000' } };
    now = updateFollowers(now, 'r', settings, after);
    expect([findBlock(now, 'a')?.style.sizePt, findBlock(now, 'a')?.style.colour, findBlock(now, 'a')?.align]).toEqual([48, '#aa0000', 'right']);
    expect([findBlock(now, 'b')?.style.sizePt, findBlock(now, 'b')?.style.colour]).toEqual([55, '#aa0000']);
    expect(updateFollowers(job, 'r', settings, after)).toBe(job);
  });

  it('goes out as design tokens and comes back whole', () => {
    const text = writeTokens([recipe], outside);
    const [token] = readTokens(text);
    expect(token?.name).toBe('Headline');
    expect(token?.settings).toEqual(settings);
    expect(JSON.parse(text)).toEqual({ Headline: jasmine.objectContaining({ $type: 'typography' }) });
  });

  it('reads tokens that others wrote, groups and all, and refuses what is none', () => {
    const foreign = JSON.stringify({
      type: {
        heading: {
          large: {
            $type: 'typography',
            $value: { fontFamily: 'Lora', fontSize: { value: 2, unit: 'rem' }, letterSpacing: { value: -0.32, unit: 'px' }, lineHeight: 1.1 },
          },
        },
      },
      colour: { ink: { $type: 'color', $value: '#111' } },
    });
    expect(readTokens(foreign)).toEqual([{ name: 'type/heading/large', family: 'Lora', sizePt: 24, trackingMilliem: -10, lineHeight: 1.1 }]);
    for (const text of ['', '{', '{}', '[1]', '{"a":{"$type":"typography","$value":{}}}']) expect(() => readTokens(text)).toThrowError(TokenError);
  });

  it('goes out as CSS custom properties', () => {
    const css = writeCss([{ ...recipe, name: 'Große Überschrift' }], outside);
    expect(css).toContain('--gro-e-uberschrift-font-size: 53.333px;');
    expect(css).toContain('--gro-e-uberschrift-text-align: center;');
    expect(css.startsWith(':root {')).toBeTrue();
  });
});
