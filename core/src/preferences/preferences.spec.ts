import { DEFAULT_PREFERENCES, PreferencesError, limitsOf, preferencesSchema, readPreferences, writePreferences } from '.';

describe('preferences', () => {
  it('are complete when nothing is said, and go out and come back', () => {
    expect(preferencesSchema.parse({})).toEqual(DEFAULT_PREFERENCES);
    const own = { ...DEFAULT_PREFERENCES, fineMilliem: 5, theme: 'dark' as const, unit: 'px' as const };
    expect(readPreferences(writePreferences(own))).toEqual(own);
    expect(readPreferences('{"format":"jentrix.preferences","fineMilliem":1}').coarseMilliem).toBe(DEFAULT_PREFERENCES.coarseMilliem);
  });

  it('are refused with a reason where they are damaged or something else', () => {
    expect(() => readPreferences('{')).toThrowError(PreferencesError, /not JSON/);
    expect(() => readPreferences('{"format":"jentrix.job"}')).toThrowError(PreferencesError, /no Jentrix preferences/);
    expect(() => readPreferences('{"format":"jentrix.preferences","fineMilliem":-4}')).toThrowError(PreferencesError, /fineMilliem/);
  });

  it('keep the limits in order whatever was typed', () => {
    expect(limitsOf({ ...DEFAULT_PREFERENCES, cautionMilliem: -20, strongMilliem: -5, outMilliem: 0 })).toEqual({ caution: -20, strong: -20, out: -20 });
  });
});
