import { QuietContext } from './quiet-context';
import { Sounding } from './sounding';

const RATE = 30;
/** Ten seconds of mix. */
const mix = { rateHz: 48000, left: new Float32Array(480_000), right: new Float32Array(480_000) };
const playing = { position: 0, first: 0, end: 300, loops: false, pace: 1, rateHz: RATE };

const nowMs = () => performance.timeOrigin + performance.now();
/** What was set going last. */
const heard = () => QuietContext.started.at(-1)!;

describe('the mix beside the picture', () => {
  let moved = 0;
  let sounding: Sounding;
  const real = globalThis.AudioContext;

  beforeEach(() => {
    jest.useFakeTimers();
    Object.assign(globalThis, { AudioContext: QuietContext });
    QuietContext.reset();
    moved = 0;
    sounding = new Sounding({ shiftClock: (byMs) => (moved += byMs) });
    sounding.setMix(mix);
  });
  afterEach(() => {
    sounding.close();
    Object.assign(globalThis, { AudioContext: real });
    jest.useRealTimers();
  });

  it('is heard from where the picture will be when the sound begins, and ends with it', () => {
    sounding.follow({ ...playing, atMs: nowMs() - 500, position: 60 });
    const { at, offset, stopsAt, loop } = heard();
    // Two seconds in, half a second ago; the sound begins a moment from now.
    expect(offset - 2.5).toBeCloseTo(at - performance.now() / 1000, 6);
    expect(stopsAt! - at).toBeCloseTo(10 - offset, 6);
    expect(loop).toBeUndefined();
  });

  it('loops with the picture, and begins within the loop however long ago that began', () => {
    sounding.follow({ ...playing, atMs: nowMs() - 10_300, position: 100, first: 90, end: 150, loops: true });
    expect(heard().loop).toEqual([3, 5]);
    expect(heard().stopsAt).toBeUndefined();
    // A third of a second into the loop of two, and 10.3 s later: 10.63 is 0.63 into the sixth round.
    expect(heard().offset - 3 - 0.6333).toBeCloseTo(heard().at - performance.now() / 1000, 3);
  });

  it('at half pace is slowed as the picture is', () => {
    sounding.follow({ ...playing, atMs: nowMs() - 1000, pace: 0.5 });
    expect(heard().pace).toBe(0.5);
    expect(heard().offset).toBeCloseTo(0.5 + (heard().at - performance.now() / 1000) / 2, 6);
    expect(heard().stopsAt! - heard().at).toBeCloseTo((10 - heard().offset) * 2, 6);
  });

  it('is not set going after the picture’s end', () => {
    sounding.follow({ ...playing, atMs: nowMs() - 11_000 });
    expect(QuietContext.started).toEqual([]);
  });

  it('goes on with another mix at the same instant, and is silent when stopped or muted', () => {
    sounding.follow({ ...playing, atMs: nowMs() });
    const first = heard();
    jest.advanceTimersByTime(1200);
    sounding.setMix(mix);
    expect(first.stopped).toBe(true);
    expect(heard().offset).toBeCloseTo(1.2 + 0.03, 3);
    sounding.setMuted(true);
    expect(QuietContext.gain).toBe(0);
    sounding.setMuted(false);
    expect(QuietContext.gain).toBe(1);
    sounding.stop();
    expect(heard().stopped).toBe(true);
    sounding.setMix(mix);
    expect(QuietContext.started).toHaveLength(2);
  });

  it('leaves a picture that is in step alone', () => {
    sounding.follow({ ...playing, atMs: nowMs() });
    jest.advanceTimersByTime(5000);
    expect(moved).toBe(0);
    expect(sounding.offMs).toBe(0);
  });

  it('holds the picture back by as much as the sound stalled, within half a second', () => {
    sounding.follow({ ...playing, atMs: nowMs() });
    jest.advanceTimersByTime(3000);
    QuietContext.behindMs = 70;
    jest.advanceTimersByTime(500);
    expect(moved).toBeCloseTo(-70, 3);
    expect(sounding.offMs).toBeCloseTo(0, 3);
    expect(sounding.worstMs).toBeCloseTo(70, 3);
    // Another mix begins where the picture now is, and nothing is moved twice.
    sounding.setMix(mix);
    jest.advanceTimersByTime(1000);
    expect(moved).toBeCloseTo(-70, 3);
  });

  it('counts no difference as the worst before it runs warm', () => {
    sounding.follow({ ...playing, atMs: nowMs() });
    jest.advanceTimersByTime(600);
    QuietContext.behindMs = 70;
    jest.advanceTimersByTime(1000);
    expect(moved).toBeCloseTo(-70, 3);
    expect(sounding.worstMs).toBe(0);
  });
});
