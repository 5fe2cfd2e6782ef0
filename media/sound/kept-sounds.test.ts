import { silence } from '@skipback/core/sound/stereo';
import { KeptSounds } from './kept-sounds';

describe('sounds that are kept', () => {
  it('are made once, until there is no room: then the one used longest ago goes', () => {
    const kept = new KeptSounds(250);
    const made: string[] = [];
    const get = (key: string, samples = 100) =>
      kept.get(key, () => {
        made.push(key);
        return silence(samples);
      });
    expect(get('a')).toBe(get('a'));
    get('b');
    get('a');
    get('c');
    expect(made).toEqual(['a', 'b', 'c']);
    get('a');
    get('c');
    expect(made).toEqual(['a', 'b', 'c']);
    get('b');
    expect(made).toEqual(['a', 'b', 'c', 'b']);
  });

  it('one too large for the room is given all the same', () => {
    const kept = new KeptSounds(50);
    expect(kept.get('long', () => silence(100)).left).toHaveLength(100);
    expect(kept.get('next', () => silence(10)).left).toHaveLength(10);
  });
});
