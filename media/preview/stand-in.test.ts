import { SharedPicture } from '../frames/shared-picture';
import { StandIn } from './stand-in';

const picture = (frame: number) => new SharedPicture({ frame, close: () => undefined }, 1);

describe('what stands in for a still that is long in coming', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  const begun = (near?: number) => {
    const shown: number[] = [];
    const standIn = new StandIn(
      () => (near === undefined ? undefined : picture(near)),
      (p) => shown.push(p.picture.frame),
    );
    return { standIn, shown };
  };

  it('is the nearest frame that is there, after a moment', () => {
    const { standIn, shown } = begun(7);
    jest.advanceTimersByTime(50);
    expect(shown).toEqual([]);
    jest.advanceTimersByTime(50);
    expect(shown).toEqual([7]);
    expect(standIn.wants()).toBe(false);
  });

  it('is one frame on the way where nothing is there', () => {
    const { standIn, shown } = begun();
    expect(standIn.wants()).toBe(false);
    jest.advanceTimersByTime(100);
    expect(standIn.wants()).toBe(true);
    standIn.give(picture(3));
    expect(shown).toEqual([3]);
    expect(standIn.wants()).toBe(false);
  });

  it('is nothing once the still has come', () => {
    for (const near of [undefined, 7]) {
      const { standIn, shown } = begun(near);
      standIn.end();
      jest.advanceTimersByTime(100);
      expect([standIn.wants(), shown]).toEqual([false, []]);
    }
  });
});
