import { analyse } from './analyse';
import { movingSongs } from './fixtures/songs';
import { fMeasure } from './score';

describe('beats of songs whose tempo moves', () => {
  it('are followed where it is another at once, wavers, and comes back', () => {
    const names = ['faster from the middle on', 'a band that wavers', 'three tempi', 'a waltz that breathes'];
    const scores = movingSongs(9, 48, names).map(({ mono, rateHz, beats }) =>
      fMeasure(analyse(mono, rateHz).grid.beats, beats),
    );
    expect(Math.min(...scores)).toBeGreaterThan(0.85);
    expect(scores.reduce((a, b) => a + b, 0) / scores.length).toBeGreaterThan(0.92);
  });
});
