import { Prover } from '$core/proof/prover';
import type { Told } from './proof-line';

/** Proves the drawing beside the page: several changes that wait are proved in one go. */
let prover: Prover | undefined;
let soon = false;

addEventListener('message', ({ data }: MessageEvent<Told>) => {
  if (data.kind === 'model') prover = new Prover(data.assembly);
  else if (data.kind === 'features') prover?.setFeatures(data.features);
  else if (data.kind === 'result') prover?.setResult(data.view, data.result);
  else prover?.change(data.change);
  if (soon) return;
  soon = true;
  setTimeout(() => {
    soon = false;
    if (prover?.ready) postMessage(prover.prove());
  }, 0);
});
