import { type Kernels, loadKernels } from './module';

let shared: { kernels: Kernels; memory: { readonly buffer: ArrayBuffer }; bytes: number } | undefined;

/**
 * The kernels of this thread with a memory of at least so many bytes, the first `FREE_FROM` not to be written to, for work that is
 * done before anything else runs: what is in it lasts until the next who asks.
 */
export function sharedKernels(bytes: number): { kernels: Kernels; buffer: ArrayBuffer } {
  if (!shared || shared.bytes < bytes) shared = { ...loadKernels(bytes), bytes };
  return { kernels: shared.kernels, buffer: shared.memory.buffer };
}

/** Where memory begins that kernels keep nothing in. */
export const FREE_FROM = 4096;
