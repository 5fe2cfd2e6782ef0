import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { NO_GRID } from '../beats/grid';
import { land } from '../moves/land';
import { rational } from '../time/rational';
import { addStep, setFormat, setStepValue } from './actions';
import { listens, projectMusic } from './compile';
import { newProject } from './new-project';
import { readProject } from './read-project';
import { type Project, type Song, pieceOf } from './schema';
import {
  removeSong,
  setClipSound,
  setEnvelope,
  setGrid,
  setSong,
  setSongGain,
  slideSong,
  trimSong,
} from './song-actions';
import {
  movePlaced,
  placeSound,
  placedAt,
  removePlaced,
  setMade,
  setPlaced,
  setPlacedWith,
} from './sound-actions';

const song: Song = {
  mediaId: 'm',
  name: 'lamplighter.ogg',
  lengthS: 60,
  startFrame: 0,
  fromS: 0,
  gainDb: 0,
  grid: NO_GRID,
  accents: [],
  accentsGone: [],
  likely: null,
  barsLikely: null,
  second: null,
  envelopes: DEFAULT_ENVELOPES,
};
const piece = pieceOf({ id: 'a', clipId: 'c', span: { in: 0, out: 60 }, chain: [] });
const project: Project = {
  ...newProject('p', 'Pier', 0),
  clips: [{ id: 'c', mediaId: 'v', name: 'tea.mp4', marks: [], readAt: null, tracks: [], framing: 'fit' }],
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
    expect(setClipSound(project, { on: true }).clipSound).toMatchObject({ on: true, pitch: 'follows' });
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

describe('made sounds', () => {
  const sound = { id: 'w', kind: 'whoosh' as const, frames: 24 };

  it('of before, with one switch for whooshes and scratches, are read as today’s', () => {
    const plain = JSON.parse(JSON.stringify(project)) as Record<string, unknown>;
    const older = { ...plain, clipSound: { on: true, gainDb: -3, made: true, madeDb: -11 } };
    delete (older as Record<string, unknown>)['made'];
    delete (older as Record<string, unknown>)['placed'];
    const read = readProject(older);
    expect(read).toMatchObject({
      ok: true,
      project: {
        clipSound: { on: true, gainDb: -3, pitch: 'follows', holds: 'silent' },
        made: {
          whoosh: { on: true, gainDb: -11 },
          scratch: { on: true, gainDb: -11 },
          thump: { on: false },
        },
        placed: [],
      },
    });
  });

  it('are switched kind by kind', () => {
    const on = setMade(project, 'thump', { on: true });
    expect(on.made.thump).toEqual({ on: true, gainDb: -8 });
    expect(on.made.whoosh).toBe(project.made.whoosh);
    expect(setMade(on, 'thump', { gainDb: 3 }).made.thump).toEqual({ on: true, gainDb: 3 });
  });

  it('placed by hand go with the song, where there is one', () => {
    const placed = placeSound(slideSong(withSong, 10), sound, 40.4);
    expect(placed.placed[0]).toMatchObject({ with: 'song', at: 30, on: true });
    expect(placedAt(placed, placed.placed[0]!)).toBe(40);
    const slid = slideSong(placed, -5);
    expect(placedAt(slid, slid.placed[0]!)).toBe(25);
    expect(placeSound(project, sound, 40).placed[0]).toMatchObject({ with: 'result', at: 40 });
  });

  it('are moved, changed, bound otherwise and taken away; without the song they stay where they were', () => {
    const placed = placeSound(slideSong(withSong, 10), sound, 40);
    const at = (p: Project) => placedAt(p, p.placed[0]!);
    expect(at(movePlaced(placed, 'w', 55))).toBe(55);
    expect(setPlaced(placed, 'w', { frames: 0, gainDb: 2 }).placed[0]).toMatchObject({
      frames: 1,
      gainDb: 2,
    });
    const free = setPlacedWith(placed, 'w', 'result');
    expect([at(free), at(slideSong(free, 99))]).toEqual([40, 40]);
    expect(at(setPlacedWith(free, 'w', 'song'))).toBe(40);
    const silent = removeSong(placed);
    expect(silent.placed[0]).toMatchObject({ with: 'result', at: 40 });
    expect(removePlaced(placed, 'w').placed).toEqual([]);
    expect(readProject(JSON.parse(JSON.stringify(placed)))).toEqual({ ok: true, project: placed });
  });

  it('and a song stay at their instant when the rate is another', () => {
    const placed = placeSound(slideSong(withSong, 30), sound, 60);
    const twice = setFormat(placed, { rate: rational(60), size: placed.size });
    expect(twice.song!.startFrame).toBe(60);
    expect(twice.placed[0]).toMatchObject({ at: 60, frames: 48 });
    expect(placedAt(twice, twice.placed[0]!)).toBe(120);
  });

  it('the shape of a band’s accents is set by itself', () => {
    const shaped = setEnvelope(withSong, 'low', { fallMs: 900 });
    expect(shaped.song!.envelopes.low).toMatchObject({ fallMs: 900, riseMs: 20 });
    expect(shaped.song!.envelopes.mid).toBe(withSong.song!.envelopes.mid);
    expect(setEnvelope(project, 'low', { fallMs: 900 })).toBe(project);
  });
});
