import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { useEffect } from 'react';
import type { ClipState } from './library';
import { mixOf, mixSentence } from './mixing';
import { setTold, useTold } from './told';
import { transport } from './transport';

/** Changes that come faster than this are mixed once, milliseconds. */
const CALM_MS = 180;

/** How the sentence of a mix that failed begins; it goes when one succeeds. */
const FAILED = 'The sound could not be made';

/** One mix at a time: those that were overtaken while they waited are not made. */
let mixing: Promise<void> = Promise.resolve();

/** Keeps the sound that plays along up to date with the project. */
export function useMix(project: Project, compiled: CompiledProject, clips: readonly ClipState[]): void {
  const { song, clipSound, made, placed, rate } = project;
  useEffect(() => {
    let overtaken = false;
    const timer = setTimeout(() => {
      mixing = mixing.then(async () => {
        if (overtaken) return;
        // Whatever becomes of this mix, the next one gets its turn.
        try {
          const mix = await mixOf(project, compiled, clips);
          if (useTold.getState().trouble?.startsWith(FAILED)) setTold({ trouble: null });
          if (!overtaken) transport.setMix(mix);
        } catch (problem) {
          setTold({ trouble: mixSentence(problem) });
          if (!overtaken) transport.setMix(undefined);
        }
      });
    }, CALM_MS);
    return () => {
      overtaken = true;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- of the project only what is heard
  }, [compiled, clips, song, clipSound, made, placed, rate]);
}
