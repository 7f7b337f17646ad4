import dictionary from 'dictionary-en';
import nspell from 'nspell';
import type { Speller } from '../core/proof/rules/spelling.ts';

let known: Speller | undefined;

/** The English dictionary that is shipped, read once. */
export function englishSpeller(): Speller {
  if (!known) {
    const spell = nspell(Buffer.from(dictionary.aff), Buffer.from(dictionary.dic));
    known = (word) => spell.correct(word);
  }
  return known;
}
