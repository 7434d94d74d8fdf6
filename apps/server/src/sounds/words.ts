import { parseKey } from '@abyssal/core';

/** What a sound is found by. */
export interface Searched {
  readonly name: string;
  readonly author: string;
  readonly tags: readonly string[];
  readonly musicKey: string;
}

/** Characters of a word that are kept. */
const LONGEST = 80;

/** A word from each of its beginnings: as it is, and from behind each hyphen. */
const beginnings = (token: string): string[] => token.split('-').map((_, i, all) => all.slice(i).join('-'));

/** Letters without case and accents. */
const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** A key as one word, which no word of a search is. */
const wholeKey = (key: string): string => `=${plain(key).replace(' ', '=')}`;

/** The words that a sound is searched by, each once; its key as a whole is one more. */
export function wordsOf({ name, author, tags, musicKey }: Searched): string[] {
  const words = [name, author, ...tags, musicKey].flatMap((text) =>
    plain(text).split(/\s+/).flatMap(beginnings),
  );
  const kept = [...words, wholeKey(musicKey)].map((word) => [...word].slice(0, LONGEST).join(''));
  return [...new Set(kept.filter(Boolean))];
}

/** One thing that is searched for: a word that begins so, or is it as a whole. */
export interface Term {
  readonly text: string;
  readonly whole: boolean;
}

/**
 * What a search asks for: every word must begin a word of the name, author, tags or key; a note name with a
 * scale after it (“c minor”, “f# dorian”) is that key.
 */
export function termsOf(search: string): Term[] {
  const words = search.trim().split(/\s+/).filter(Boolean);
  const terms: Term[] = [];
  for (let i = 0; i < words.length; i++) {
    const key = i + 1 < words.length ? parseKey(`${words[i]} ${words[i + 1]}`) : null;
    if (key) i += 1;
    terms.push(key ? { text: wholeKey(key), whole: true } : { text: plain(words[i]), whole: false });
  }
  return terms;
}
