import { useEffect, useRef } from 'react';
import { create } from 'zustand';

/** What the finder may find. */
export interface Find {
  /** Its own among all. */
  readonly id: string;
  readonly kind: 'move' | 'look' | 'recipe' | 'command' | 'setting' | 'piece' | 'mark' | 'clip' | 'project';
  readonly name: string;
  /** What it does or is, in a few words. */
  readonly says?: string;
  /** What else it is called. */
  readonly also?: string;
  readonly key?: string;
  /** A move's shape. */
  readonly shape?: readonly number[];
  /** Why it cannot be done now. */
  readonly why?: string | undefined;
  run(): void;
}

type Source = () => readonly Find[];

const sources: Source[] = [];

/** Says what a view has to be found, as long as it is open; asked each time the finder opens. */
export function useFinds(source: Source): void {
  const latest = useRef(source);
  useEffect(() => {
    latest.current = source;
  });
  useEffect(() => {
    const mine: Source = () => latest.current();
    sources.push(mine);
    return () => void sources.splice(sources.indexOf(mine), 1);
  }, []);
}

/** All there is to be found now, in the order of the views that are open, innermost first. */
export const allFinds = (): readonly Find[] => sources.toReversed().flatMap((source) => source());

export const useFinder = create<{ readonly open: boolean }>(() => ({ open: false }));
export const openFinder = (): void => useFinder.setState({ open: true });
export const closeFinder = (): void => useFinder.setState({ open: false });
