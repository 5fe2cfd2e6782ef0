import { aroundSpan, fitViews, setSourceView, sourceViewOf, toggleAroundSpan, useViews } from './views';

const seen = (clipId: string, frames: number) => sourceViewOf(useViews.getState(), clipId, frames);
/** Two seconds in the middle of four minutes at 30 frames a second. */
const span = { in: 3570, out: 3630 };
const LONG = 7200;

describe('the source strip around a span', () => {
  beforeEach(fitViews);

  it('shows the span with room on both sides, so that its edges can be taken hold of', () => {
    aroundSpan('c', span, LONG);
    const view = seen('c', LONG);
    expect(view.from).toBeLessThan(span.in);
    expect(view.to).toBeGreaterThan(span.out);
    // A fifth of the strip is the span: some 250 of 1280 pixels.
    expect((span.out - span.in) / (view.to - view.from)).toBeCloseTo(0.2, 6);
  });

  it('stays inside the clip', () => {
    aroundSpan('c', { in: 0, out: 60 }, LONG);
    expect(seen('c', LONG)).toEqual({ from: 0, to: 180 });
    aroundSpan('c', { in: 7190, out: 7200 }, LONG);
    expect(seen('c', LONG)).toEqual({ from: 7170, to: 7200 });
  });

  it('goes to the whole clip and back with one key', () => {
    toggleAroundSpan('c', span, LONG);
    expect(seen('c', LONG).to - seen('c', LONG).from).toBe(300);
    toggleAroundSpan('c', span, LONG);
    expect(seen('c', LONG)).toEqual({ from: 0, to: LONG });
  });

  it('of another clip is left alone', () => {
    aroundSpan('c', span, LONG);
    expect(seen('other', 100)).toEqual({ from: 0, to: 100 });
    setSourceView('other', { from: 10, to: 20 }, 100);
    expect(seen('other', 100)).toEqual({ from: 10, to: 20 });
  });
});
