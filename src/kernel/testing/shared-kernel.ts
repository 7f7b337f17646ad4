import { loadKernel, type Kernel } from '../load.ts';

const shared = globalThis as { testKernel?: Promise<Kernel> };

/** The kernel of this test worker: its start takes seconds, and files that go through one worker share it. */
export const sharedKernel = (): Promise<Kernel> => (shared.testKernel ??= loadKernel());
