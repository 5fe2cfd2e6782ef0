import { QuietContext } from '../state/quiet-context';
import { SongPlayer } from './song-player';

jest.mock('@skipback/media/sound/sound-client', () => ({
  soundClient: {
    mix: () => Promise.resolve({ left: new Float32Array(480_000), right: new Float32Array(480_000) }),
  },
}));

/** Two beats a second from a quarter on; every fourth from the second on begins a bar. */
const grid = { beats: Array.from({ length: 20 }, (_, i) => 0.25 + i / 2), firstBar: 1, beatsPerBar: 4 };
const song = { mediaId: 'm', lengthS: 10 } as Parameters<SongPlayer['play']>[0];

describe('the click over a song', () => {
  const real = globalThis.AudioContext;
  let player: SongPlayer;
  /** The instant of the song, in one long row, that a moment of the sound's clock is. */
  const inSong = (at: number, fromS: number) => at - QuietContext.started.at(-1)!.at + fromS;

  beforeEach(() => {
    jest.useFakeTimers();
    Object.assign(globalThis, { AudioContext: QuietContext });
    QuietContext.reset();
    player = new SongPlayer();
  });
  afterEach(() => {
    player.close();
    Object.assign(globalThis, { AudioContext: real });
    jest.useRealTimers();
  });

  it('is on every beat once, higher where a bar begins', async () => {
    await player.play(song, 1, null, () => grid);
    jest.advanceTimersByTime(5000);
    const heard = QuietContext.tones.map(({ at }) => inSong(at, 1));
    expect(heard.length).toBeGreaterThan(9);
    heard.forEach((at, i) => expect(at).toBeCloseTo(1.25 + i / 2, 6));
    const highest = Math.max(...QuietContext.tones.map(({ hz }) => hz));
    expect(QuietContext.tones.flatMap(({ hz }, i) => (hz === highest ? [i] : []))).toEqual([3, 7]);
  });

  it('comes round with a loop', async () => {
    await player.play(song, 2, { from: 2, to: 4 }, () => grid);
    jest.advanceTimersByTime(5000);
    const heard = QuietContext.tones.map(({ at }) => inSong(at, 2));
    heard.forEach((at, i) => expect(at).toBeCloseTo(2.25 + i / 2, 6));
    expect(heard.length).toBeGreaterThan(9);
  });

  it('is left out, not late, where the page stood still for longer than it is set going ahead', async () => {
    await player.play(song, 0, null, () => grid);
    jest.advanceTimersByTime(400);
    // The sound's clock goes on for two seconds in which nothing else happens.
    QuietContext.behindMs = -2000;
    jest.advanceTimersByTime(1000);
    const late = QuietContext.tones.filter(({ at }) => inSong(at, 0) > 1.1 && inSong(at, 0) < 2.4);
    expect(late).toEqual([]);
    expect(QuietContext.tones.some(({ at }) => Math.abs(inSong(at, 0) - 2.75) < 1e-6)).toBe(true);
  });

  it('is silent when switched off, and when the song is stopped', async () => {
    let clicks: typeof grid | null = null;
    await player.play(song, 0, null, () => clicks);
    jest.advanceTimersByTime(2000);
    expect(QuietContext.tones).toEqual([]);
    clicks = grid;
    jest.advanceTimersByTime(1000);
    const before = QuietContext.tones.length;
    expect(before).toBeGreaterThan(0);
    player.stop();
    expect(player.playing).toBe(false);
    jest.advanceTimersByTime(2000);
    expect(QuietContext.tones).toHaveLength(before);
  });
});
