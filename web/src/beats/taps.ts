import { create } from 'zustand';

/** Taps on songs, as instants of them, by their projects; and how late this person taps. */
interface Taps {
  readonly taps: Readonly<Record<string, readonly number[]>>;
  readonly latencyMs: number;
}

/** The most taps that are kept of a song. */
const MOST = 200;

export const useTaps = create<Taps>(() => ({ taps: {}, latencyMs: 0 }));

export const addTap = (projectId: string, atS: number): void =>
  useTaps.setState(({ taps }) => ({
    taps: { ...taps, [projectId]: [...(taps[projectId] ?? []), atS].slice(-MOST) },
  }));
export const clearTaps = (projectId: string): void =>
  useTaps.setState(({ taps }) => ({ taps: { ...taps, [projectId]: [] } }));
export const setLatencyMs = (latencyMs: number): void => useTaps.setState({ latencyMs });
