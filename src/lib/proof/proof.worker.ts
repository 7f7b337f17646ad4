import affixes from '$dictionary/index.aff?url';
import words from '$dictionary/index.dic?url';
import nspell from 'nspell';
import { Prover } from '$core/proof/prover';
import type { Speller } from '$core/proof/rules/spelling';
import type { Told } from './proof-line';

/** Proves the drawing beside the page: several changes that wait are proved in one go. */
let prover: Prover | undefined;
let soon = false;
let speller: Speller | undefined;

/** The dictionary comes after everything else: spelling is looked at last. */
async function learnToSpell(): Promise<void> {
  const [aff, dic] = await Promise.all([affixes, words].map(async (url) => (await fetch(url)).text()));
  const spell = nspell(aff!, dic!);
  speller = (word) => spell.correct(word);
  prover?.setSpeller(speller);
  proveSoon();
}
void learnToSpell();

function proveSoon(): void {
  if (soon) return;
  soon = true;
  setTimeout(() => {
    soon = false;
    if (prover?.ready) postMessage(prover.prove());
  }, 0);
}

addEventListener('message', ({ data }: MessageEvent<Told>) => {
  if (data.kind === 'model') {
    prover = new Prover(data.assembly);
    if (speller) prover.setSpeller(speller);
  } else if (data.kind === 'features') prover?.setFeatures(data.features);
  else if (data.kind === 'remarks') prover?.setRemarks(data.remarks);
  else if (data.kind === 'hits') prover?.setHits(data.spread, data.hits);
  else if (data.kind === 'result') prover?.setResult(data.view, data.result);
  else prover?.change(data.change);
  proveSoon();
});
