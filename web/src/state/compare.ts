import type { Project } from '@skipback/core/project/schema';
import { create } from 'zustand';
import { act, historyOf, stepHistory, useProjectStore } from './project-store';

/** Two versions of the open project to flip between: the one that is open, and the one that is not. */
interface Compare {
  readonly which: 'A' | 'B';
  readonly other: Project | null;
}

export const useCompare = create<Compare>(() => ({ which: 'A', other: null }));

/** Forgets the other version, for another project. */
export const resetCompare = (): void => useCompare.setState({ which: 'A', other: null });

/**
 * Goes to the other version; the first time it is a copy of this one. Nothing is lost: it is a change like
 * any other, and flipping back and forth adds no more than one to the history.
 */
export function flip(): 'A' | 'B' {
  const { project } = useProjectStore.getState();
  const { which, other } = useCompare.getState();
  const to = which === 'A' ? 'B' : 'A';
  if (!project) return which;
  useCompare.setState({ which: to, other: project });
  if (!other || other === project) return to;
  const { entries, present } = historyOf();
  if (entries[present - 1]?.project === other) stepHistory(-1);
  else if (entries[present + 1]?.project === other) stepHistory(1);
  else act(`flip to ${to}`, () => other);
  return to;
}
