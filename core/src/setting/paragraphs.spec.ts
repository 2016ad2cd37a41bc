import { PLAIN_PARAGRAPH } from '../job';
import { paragraphAt, paragraphs } from './paragraphs';

describe('paragraphs stage', () => {
  const of = (words: string, list: 'none' | 'bullet' | 'number' = 'none') => paragraphs({ words, paragraph: { ...PLAIN_PARAGRAPH, list } });

  it('cuts at hard breaks, which belong to neither side', () => {
    expect(of('Two\n\nnights').map(({ start, end }) => [start, end])).toEqual([
      [0, 3],
      [4, 4],
      [5, 11],
    ]);
    expect(of('').map(({ start, end }) => [start, end])).toEqual([[0, 0]]);
    expect(of('Two\n').length).toBe(2);
  });

  it('numbers what has words, and only in a list', () => {
    expect(of('a\n\nb\nc', 'number').map(({ mark }) => mark)).toEqual(['1.', undefined, '2.', '3.']);
    expect(of('a\nb', 'bullet').map(({ mark }) => mark)).toEqual(['•', '•']);
    expect(of('a\nb').map(({ mark }) => mark)).toEqual([undefined, undefined]);
  });

  it('knows directions, each paragraph by itself', () => {
    const [latin, hebrew] = of('Vega\nשלום');
    expect(latin?.levels).toBeUndefined();
    expect([...(hebrew?.levels ?? [])]).toEqual([1, 1, 1, 1]);
  });

  it('finds the paragraph of any place', () => {
    const words = 'Two\n\nnights';
    for (const { start, end } of of(words)) {
      for (let at = start; at <= end; at++) expect(paragraphAt(words, at)).toEqual(jasmine.objectContaining({ start, end }));
    }
  });
});
