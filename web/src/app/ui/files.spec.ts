import { fileSize } from './files';

describe('file sizes', () => {
  it('read as people say them', () => {
    expect([0, 999, 1000, 9_949, 812_400, 999_999, 1_440_000, 31_000_000].map(fileSize)).toEqual([
      '0 bytes',
      '999 bytes',
      '1.0 KB',
      '9.9 KB',
      '812 KB',
      '1000 KB',
      '1.4 MB',
      '31 MB',
    ]);
  });
});
