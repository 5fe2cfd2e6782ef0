import type { Project } from '../project/schema';
import type { Look } from './look';
import { treatmentById } from './registry';
import { EVERYWHERE } from './scope';

const plain = (id: string, colour: string): Look => ({
  ...{ id, look: 'flash', on: true, scope: EVERYWHERE, strength: 100, region: null, matte: null },
  values: { kind: 'colour', colour, amount: 100, fall: 0 },
});

/** Whether a look is drawn only on some of the picture. */
export const isPartial = ({ region, matte }: Look): boolean => region !== null || matte !== null;

/**
 * A project in which a look's region and matte are seen themselves: white where it applies, black where not, on every
 * frame of its list. The project itself where there is nothing to be seen.
 */
export function asGrey(project: Project, lookId: string): Project {
  const seen = (looks: readonly Look[]): Look[] | undefined => {
    const look = looks.find((l) => l.id === lookId);
    if (!look || !isPartial(look)) return undefined;
    const [within, around] = treatmentById(look.look)?.outside
      ? ['#000000', '#ffffff']
      : ['#ffffff', '#000000'];
    const { region, matte } = look;
    return [plain(`${lookId} ground`, around), { ...plain(lookId, within), region, matte }];
  };
  const ofResult = seen(project.looks);
  if (ofResult)
    return { ...project, looks: ofResult, pieces: project.pieces.map((p) => ({ ...p, looks: [] })) };
  const pieces = project.pieces.map((p) => {
    const looks = seen(p.looks);
    return looks ? { ...p, looks } : p;
  });
  return pieces.some((p, i) => p !== project.pieces[i]) ? { ...project, looks: [], pieces } : project;
}
