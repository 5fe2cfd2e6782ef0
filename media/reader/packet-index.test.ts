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
  });

  it('a file whose times are all negative keeps them', () => {
    expect(indexPackets([packet(0, true, -5), packet(0, false, -4)]).times.length).toBe(2);
  });
});
