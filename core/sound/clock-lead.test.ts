import { ClockLead } from './clock-lead';

const FRAME_MS = 1000 / 30;

/** Runs a led clock beside one that leads, read ten times a second; gives how far it is off at each reading. */
function run(
  seconds: number,
  leadsBy: (s: number) => number,
  wrong: (i: number) => number = () => 0,
): number[] {
  const lead = new ClockLead();
  let moved = 0;
  return Array.from({ length: seconds * 10 }, (_, i) => {
    const off = leadsBy(i / 10) - moved;
    moved += lead.take(off + wrong(i))?.moveMs ?? 0;
    return off;
  });
}
const worst = (offs: readonly number[]) => Math.max(...offs.map(Math.abs));

describe('a clock that is led', () => {
  it('moves nothing before five readings, nor for noise', () => {
    const lead = new ClockLead();
    expect([40, 40, 40, 40].map((off) => lead.take(off))).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
    expect(lead.take(40)).toEqual({ offMs: 40, moveMs: 40 });
    expect(worst(run(60, () => 1.5))).toBe(1.5);
  });

  it('stays within a tenth of a frame for five minutes of clocks that run a thousandth apart', () => {
    expect(worst(run(300, (s) => s).slice(10))).toBeLessThan(FRAME_MS / 10);
    expect(worst(run(300, (s) => -s).slice(10))).toBeLessThan(FRAME_MS / 10);
  });

  it.each([60, 500, -80])('is in step again three readings after the leader jumped by %d ms', (jump) => {
    const offs = run(20, (s) => (s < 10 ? 0 : jump));
    expect(worst(offs.slice(0, 100))).toBe(0);
    expect(offs.slice(100, 103)).toEqual([jump, jump, jump]);
    expect(worst(offs.slice(103))).toBeLessThan(2);
  });

  it('believes no wrong reading, nor two of five', () => {
    expect(
      worst(
        run(
          60,
          () => 0,
          (i) => (i % 5 === 0 ? 200 : i % 5 === 2 ? -90 : 0),
        ),
      ),
    ).toBe(0);
  });

  it('follows a drift through wrong readings', () => {
    const offs = run(
      120,
      (s) => s / 2,
      (i) => (i % 6 === 0 ? 120 : 0),
    );
    expect(worst(offs.slice(10))).toBeLessThan(FRAME_MS / 4);
  });
});
