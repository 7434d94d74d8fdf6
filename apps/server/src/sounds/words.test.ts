import { termsOf, wordsOf } from './words.js';

describe('words of a sound', () => {
  it('are those of name, author, tags and key, each once, plain, from every beginning', () => {
    expect(
      wordsOf({ name: 'Low-Water Édge', author: 'quay', tags: ['deep sub', 'edge'], musicKey: 'F♯ minor' }),
    ).toEqual(['low-water', 'water', 'edge', 'quay', 'deep', 'sub', 'f♯', 'minor', '=f♯=minor']);
  });

  it('fit their column, whatever a name is made of', () => {
    const name = '-a'.repeat(40);
    const words = wordsOf({ name, author: name, tags: Array(10).fill('-b'.repeat(15)), musicKey: 'C minor' });
    expect(Math.max(...words.map((word) => word.length))).toBeLessThanOrEqual(80);
    expect(words.join(' ').length).toBeLessThan(7900);
  });
});

describe('terms of a search', () => {
  it('are its words, and a note name with a scale after it as one', () => {
    expect(termsOf('  Édge c# minor x ')).toEqual([
      { text: 'edge', whole: false },
      { text: '=c♯=minor', whole: true },
      { text: 'x', whole: false },
    ]);
    expect(termsOf('c')).toEqual([{ text: 'c', whole: false }]);
    expect(termsOf(' ')).toEqual([]);
  });
});
