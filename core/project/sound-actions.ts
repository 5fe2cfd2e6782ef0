import { MADE_WORDS, type MadeKind } from '../sound/made/kinds';
import type { MadeSetting, OwnSound, Placed, PlacedSource, Project } from './schema';

/** Switches a kind of sound that the path makes by itself, or sets its level. */
export function setMade(project: Project, kind: MadeKind, setting: Partial<MadeSetting>): Project {
  return { ...project, made: { ...project.made, [kind]: { ...project.made[kind], ...setting } } };
}

/** Result frame at which a placed sound begins. */
export const placedAt = (project: Project, sound: Placed): number =>
  sound.at + (sound.with === 'song' ? (project.song?.startFrame ?? 0) : 0);

/** What a placed sound is called. */
export const placedName = (sound: PlacedSource): string =>
  sound.kind === 'own'
    ? sound.own.name.replace(/\.[^.]+$/, '') || sound.own.name
    : MADE_WORDS[sound.kind].name;

/** The user's sounds that a project places, each file once, as it was first placed. */
export const ownSounds = ({ placed }: Pick<Project, 'placed'>): OwnSound[] =>
  [
    ...new Map(
      placed.flatMap((s) => (s.kind === 'own' ? [[s.own.mediaId, s.own] as const] : [])).reverse(),
    ).values(),
  ].reverse();

/** Places a sound at a result frame: with the song, where there is one. */
export function placeSound(
  project: Project,
  sound: PlacedSource & Pick<Placed, 'id' | 'frames'>,
  atFrame: number,
): Project {
  const song = project.song;
  const placed: Placed = {
    ...sound,
    on: true,
    with: song ? 'song' : 'result',
    at: Math.round(atFrame) - (song?.startFrame ?? 0),
    gainDb: sound.kind === 'own' ? 0 : -6,
  };
  return { ...project, placed: [...project.placed, placed] };
}

function change(project: Project, id: string, to: (sound: Placed) => Placed): Project {
  return { ...project, placed: project.placed.map((s) => (s.id === id ? to(s) : s)) };
}

/** Moves a placed sound to another result frame. */
export function movePlaced(project: Project, id: string, atFrame: number): Project {
  return change(project, id, (s) => ({ ...s, at: s.at + Math.round(atFrame) - placedAt(project, s) }));
}

/** What of a placed sound can be set as it is. */
export type PlacedValues = Partial<Pick<Placed, 'on' | 'gainDb' | 'frames'>>;

export function setPlaced(project: Project, id: string, values: PlacedValues): Project {
  return change(project, id, (s) => ({ ...s, ...values, frames: Math.max(1, values.frames ?? s.frames) }));
}

/** Lets another sound be heard at a placed one's place. */
export function setPlacedSource(project: Project, id: string, source: PlacedSource): Project {
  return change(project, id, ({ on, with: goesWith, at, frames, gainDb }) => ({
    ...{ id, on, with: goesWith, at, frames, gainDb },
    ...source,
  }));
}

/** Lets a placed sound go with the song or with the result from now on; it stays where it is. */
export function setPlacedWith(project: Project, id: string, next: Placed['with']): Project {
  return change(project, id, (s) => {
    const at = placedAt(project, s) - (next === 'song' ? (project.song?.startFrame ?? 0) : 0);
    return { ...s, with: next, at };
  });
}

export function removePlaced(project: Project, id: string): Project {
  return { ...project, placed: project.placed.filter((s) => s.id !== id) };
}
