import { NUMBER_LANGUAGES } from '@jentrix/core/preferences';
import { parseLength } from '@jentrix/core/units';
import { decimalSign, inLanguage, numberLanguage, showSigned, showValue } from './numbers';

describe('numbers', () => {
  afterEach(() => numberLanguage.set('en'));

  it('are shown in the language of the preferences, with a true minus', () => {
    expect([showValue(0.5), showSigned(-12.25, 2), showSigned(3.5)]).toEqual(['0.5', '−12.25', '+3.5']);
    numberLanguage.set('de');
    expect([showValue(0.5), showSigned(-12.25, 2), showSigned(3.5), showValue(1234)]).toEqual(['0,5', '−12,25', '+3,5', '1234']);
  });

  it('can be read again in every language', () => {
    for (const language of NUMBER_LANGUAGES) {
      numberLanguage.set(language);
      expect(parseLength(showValue(1234.75)))
        .withContext(language)
        .toBe(1234.75);
      expect(decimalSign(language)).toMatch(/^[.,]$/);
    }
  });

  it('change nothing else in a text', () => {
    numberLanguage.set('fr');
    expect(inLanguage('120.5% of 3.25 pt. Done.')).toBe('120,5% of 3,25 pt. Done.');
  });
});
