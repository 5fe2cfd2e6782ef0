import { NO_GRID } from '../beats/grid';
import { land } from '../moves/land';
import { addStep, setStepValue } from './actions';
import { listens, projectMusic } from './compile';
import { newProject } from './new-project';
import { type Piece, type Project, type Song, readProject } from './schema';
import { removeSong, setClipSound, setGrid, setSong, setSongGain, slideSong, trimSong } from './song-actions';

const song: Song = {
  mediaId: 'm',
  name: 'lamplighter.ogg',
  lengthS: 60,
  startFrame: 0,
  fromS: 0,
  gainDb: 0,
  grid: NO_GRID,
  accents: [],
};
const piece: Piece = { id: 'a', clipId: 'c', span: { in: 0, out: 60 }, chain: [] };
const project: Project = {
  ...newProject('p', 'Pier', 0),
  clips: [{ id: 'c', mediaId: 'v', name: 'tea.mp4', marks: [], readAt: null, framing: 'fit' }],
  pieces: [piece],
};
const withSong = setSong(project, song);

describe('a project’s song', () => {
  it('is read back whole, and older projects have none', () => {
    expect(readProject(JSON.parse(JSON.stringify(withSong)))).toEqual({ ok: true, project: withSong });
    const older = Object.fromEntries(
      Object.entries(project).filter(([key]) => key !== 'song' && key !== 'clipSound'),
    );
    expect(readProject(older)).toMatchObject({ ok: true, project: { song: null, clipSound: { on: false } } });
  });

  it.each([
    ['slid', slideSong(withSong, 7.4), { startFrame: 7 }],
    ['trimmed', trimSong(withSong, 12.5), { fromS: 12.5 }],
    ['trimmed beyond its end', trimSong(withSong, 900), { fromS: 60 }],
    ['made quieter', setSongGain(withSong, -200), { gainDb: -60 }],
  ])('is %s', (_, changed, wanted) => {
    expect(changed.song).toMatchObject(wanted);
    expect(withSong.song).toEqual(song);
  });

  it('is taken out; without one nothing is slid', () => {
    expect(removeSong(withSong).song).toBeNull();
    expect(slideSong(project, 5)).toBe(project);
    expect(setClipSound(project, { on: true }).clipSound).toMatchObject({ on: true, made: false });
  });

  it('makes music once it has beats, laid where it lies', () => {
    expect(projectMusic(withSong)).toBeUndefined();
    const grid = { beats: [0, 0.5, 1], firstBar: 0, beatsPerBar: 4 };
    const beaten = slideSong(setGrid(withSong, grid, [{ at: 0.5, band: 'low', strength: 1 }]), 10);
    expect(projectMusic(beaten)).toMatchObject({ beats: [10, 25, 40], accents: [{ at: 25, band: 'low' }] });
    expect(projectMusic(trimSong(beaten, 0.5))!.beats).toEqual([-5, 10, 25]);
  });
});

describe('values in beats', () => {
  const fit = addStep(project, 'a', { id: 's', move: 'fit', values: { length: { beats: 8 } } });

  it('are taken and kept; nonsense is not', () => {
    expect(fit.pieces[0]!.chain[0]!.values['length']).toEqual({ beats: 8 });
    const typed = setStepValue(fit, 'a', 's', 'length', { beats: 4 });
    expect(typed.pieces[0]!.chain[0]!.values['length']).toEqual({ beats: 4 });
    expect(setStepValue(fit, 'a', 's', 'length', { beats: 'many' })).toBe(fit);
    expect(readProject(JSON.parse(JSON.stringify(fit)))).toMatchObject({ ok: true });
  });

  it('make a piece listen, as moves on the music do', () => {
    const chainOf = (p: Project) => p.pieces[0]!;
    expect(listens(piece)).toBe(false);
    expect(listens(chainOf(fit))).toBe(true);
    const landed = addStep(project, 'a', { id: 'l', move: 'land', values: { ...land.defaults } });
    expect(listens(chainOf(landed))).toBe(true);
    const off = { ...chainOf(landed), chain: chainOf(landed).chain.map((s) => ({ ...s, on: false })) };
    expect(listens(off)).toBe(false);
    const bounce = addStep(project, 'a', { id: 'b', move: 'bounce', values: { on: 'every' } });
    expect(listens(chainOf(bounce))).toBe(true);
  });
});
