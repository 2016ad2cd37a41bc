import { COLOUR_PLACES, DEFAULT_STYLE, type Style, styleSchema, withColour } from '.';

describe('colours of a style', () => {
  const painted: Style = {
    ...DEFAULT_STYLE,
    gradient: { to: '#111111', angleDeg: 30 },
    outline: { milliem: 12, colour: '#222222', join: 'round' },
    shadow: { xMilliem: 1, yMilliem: 2, blurMilliem: 3, colour: '#333333' },
  };

  it('change one place and nothing else', () => {
    expect(withColour(painted, 'fill', '#abcdef')).toEqual({ colour: '#abcdef' });
    expect(withColour(painted, 'gradient', '#abcdef')).toEqual({ gradient: { to: '#abcdef', angleDeg: 30 } });
    expect(withColour(painted, 'outline', '#abcdef')).toEqual({ outline: { milliem: 12, colour: '#abcdef', join: 'round' } });
    expect(withColour(painted, 'shadow', '#abcdef')).toEqual({ shadow: { xMilliem: 1, yMilliem: 2, blurMilliem: 3, colour: '#abcdef' } });
    for (const place of COLOUR_PLACES) expect(styleSchema.safeParse({ ...painted, ...withColour(painted, place, '#abcdef') }).success).toBeTrue();
  });

  it('do not switch on an effect that is off', () => {
    for (const place of ['gradient', 'outline', 'shadow'] as const) expect(withColour(DEFAULT_STYLE, place, '#abcdef')).toEqual({});
  });
});
