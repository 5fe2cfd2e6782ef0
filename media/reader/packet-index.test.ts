import { indexPackets, packetsOfRun } from './packet-index';

const packet = (frame: number, isKey = false, timeS = frame / 30) => ({ timeS, durationS: 1 / 30, isKey });

describe('the packet index', () => {
  it('puts B-frames into presentation order', () => {
    const index = indexPackets([
      packet(0, true),
      packet(3),
      packet(1),
      packet(2),
      packet(6),
      packet(4),
      packet(5),
    ]);
    expect([...index.decodePlaces]).toEqual([0, 2, 3, 1, 5, 6, 4]);
    expect([...index.framesInDecodeOrder]).toEqual([0, 3, 1, 2, 6, 4, 5]);
    expect(packetsOfRun(index, 0, 2)).toEqual({ first: 0, last: 3 });
  });

  it('frames shown before a key frame that comes earlier in the file belong to the group before', () => {
    const index = indexPackets([
      packet(0, true),
      packet(1),
      packet(4, true),
      packet(2),
      packet(3),
      packet(5),
    ]);
    expect(index.keys).toEqual([0, 4]);
    expect(packetsOfRun(index, 0, 3)).toEqual({ first: 0, last: 4 });
    expect(packetsOfRun(index, 4, 5)).toEqual({ first: 2, last: 5 });
  });

  it('leaves out packets that the file cuts off before its start', () => {
    const index = indexPackets([
      packet(0, true, -2 / 30),
      packet(0, false, -1 / 30),
      packet(0, false, 0),
      packet(0, false, 1 / 30),
    ]);
    expect(index.times.length).toBe(2);
    expect([...index.framesInDecodeOrder]).toEqual([-1, -1, 0, 1]);
    // Decoding begins with the hidden key packet.
    expect(packetsOfRun(index, 0, 1)).toEqual({ first: 0, last: 3 });
    expect(index.keyTimesS).toEqual([-2 / 30]);
  });

  it('begins at the last of several hidden key packets, and a frame half before zero is hidden too', () => {
    const index = indexPackets([
      packet(0, true, -2),
      packet(0, false, -1.5),
      packet(0, true, -0.5),
      packet(0, false, -0.02),
      packet(0, false, 0.013),
      packet(0, true, 0.05),
    ]);
    expect([...index.times]).toEqual([0.013, 0.05]);
    expect([index.keys, index.keyPlaces]).toEqual([
      [0, 1],
      [2, 5],
    ]);
  });

  it('of a stream that was cut in leaves out what no key packet leads to', () => {
    const index = indexPackets([
      packet(3),
      packet(1),
      packet(6, true),
      packet(4),
      packet(5),
      packet(7),
      packet(8),
    ]);
    expect([...index.times].map((t) => Math.round(t * 30))).toEqual([6, 7, 8]);
    expect([index.keys, index.keyPlaces]).toEqual([[0], [2]]);
  });

  it('a file whose times are all negative keeps them', () => {
    expect(indexPackets([packet(0, true, -5), packet(0, false, -4)]).times.length).toBe(2);
  });
});
