import { likelySends, readWheel, stepsOf } from './wheel';

describe('a MIDI control as a wheel', () => {
  it.each([
    [[0xb0, 21, 1], { kind: 'turn', control: '1:21', value: 1, most: 128 }],
    [[0xb3, 7, 127], { kind: 'turn', control: '4:7', value: 127, most: 128 }],
    [[0xe0, 0, 64], { kind: 'turn', control: '1:bend', value: 8192, most: 16_384 }],
    [[0x90, 60, 100], { kind: 'touch', down: true }],
    [[0x90, 60, 0], { kind: 'touch', down: false }],
    [[0x80, 60, 64], { kind: 'touch', down: false }],
    [[0xf8], undefined],
    [[0xc0, 3], undefined],
    [[], undefined],
  ])('%j is %j', (data, wanted) => {
    expect(readWheel(data)).toEqual(wanted);
  });

  it.each([
    ['around-0', 1, undefined, 1],
    ['around-0', 127, undefined, -1],
    ['around-0', 125, undefined, -3],
    ['around-64', 65, undefined, 1],
    ['around-64', 61, undefined, -3],
    ['position', 40, undefined, 0],
    ['position', 40, 34, 6],
  ] as const)('%s: %d after %s is %d steps', (sends, value, before, steps) => {
    expect(stepsOf({ value, most: 128 }, sends, before)).toBe(steps);
  });

  it('a bend is as fine as it is sent', () => {
    expect(stepsOf({ value: 8192, most: 16_384 }, 'position', 8064)).toBe(1);
  });

  it.each([
    [1, 'around-0'],
    [127, 'around-0'],
    [65, 'around-64'],
    [30, 'position'],
  ])('a first value of %d is likely %s', (value, sends) => {
    expect(likelySends({ value, most: 128 })).toBe(sends);
  });
});
