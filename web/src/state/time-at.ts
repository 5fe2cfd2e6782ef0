import { beatFrames } from '@skipback/core/beats/music';
import { projectMusic } from '@skipback/core/project/compile';
import type { TimeAt } from '@skipback/core/time/amount';
import { rational } from '@skipback/core/time/rational';
import { useProjectStore } from './project-store';

/** What times are counted at that are typed into the open project now: its rate, and the beat of its song. */
export function timeAt(): TimeAt {
  const { project } = useProjectStore.getState();
  if (!project) return { rate: rational(30) };
  const music = projectMusic(project);
  const frames = music ? beatFrames(music) : 0;
  return {
    rate: project.rate,
    beat: music && frames > 0 ? { frames, perBar: music.beatsPerBar } : undefined,
  };
}
