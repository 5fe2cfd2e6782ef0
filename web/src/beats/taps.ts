import { create } from 'zustand';

/** Taps on the song, as instants of it, and how late this person taps. */
interface Taps {
  readonly taps: readonly number[];
  readonly latencyMs: number;
  add(atS: number): void;
  clear(): void;
  setLatencyMs(latencyMs: number): void;
}

export const useTaps = create<Taps>((set) => ({
  taps: [],
  latencyMs: 0,
  add: (atS) => set((s) => ({ taps: [...s.taps, atS].slice(-200) })),
  clear: () => set({ taps: [] }),
  setLatencyMs: (latencyMs) => set({ latencyMs }),
}));
