import type { Arguments } from './arguments.ts';

type Verb = (args: Arguments) => Promise<unknown>;

/** What the command line can do. Each is loaded when it is asked for: most need little of the others. */
export const VERBS: Readonly<Record<string, () => Promise<Verb>>> = {
  inspect: async () => (await import('./inspect.ts')).inspect,
  view: async () => (await import('./view.ts')).view,
  cut: async () => (await import('./cut.ts')).cut,
  slice: async () => (await import('./slice.ts')).slice,
  explode: async () => (await import('./explode.ts')).explode,
  draft: async () => (await import('./draft.ts')).draft,
  compare: async () => (await import('./compare.ts')).compare,
  dimensions: async () => (await import('./dimensions.ts')).dimensions,
  threads: async () => (await import('./threads.ts')).threads,
  proof: async () => (await import('./proof.ts')).proof,
  guide: async () => (await import('./guide.ts')).guide,
  flat: async () => (await import('./flat.ts')).flat,
  format: async () => (await import('./format.ts')).format,
  recipe: async () => (await import('./recipe.ts')).recipe,
  verify: async () => (await import('./verify.ts')).verify,
};
