import { pictureType } from './picture-file';

const file = (...parts: (string | number[])[]) =>
  new Blob([...parts.map((p) => (typeof p === 'string' ? p : Uint8Array.from(p))), new Uint8Array(20)]);

it('knows pictures by how they begin, whatever they are called', async () => {
  const types = [
    file([0x89], 'PNG\r\n', [0x1a], '\n'),
    file('GIF89a'),
    file([0xff, 0xd8, 0xff, 0xe1]),
    file('RIFF', [1, 2, 10, 4], 'WEBPVP8 '),
    file([0, 0, 0, 32], 'ftypavif'),
    file('BM', [9, 10, 13, 0, 0, 0, 0, 0]),
  ];
  expect(await Promise.all(types.map(async (f) => (await pictureType(f))?.name))).toEqual([
    ...['PNG', 'GIF', 'JPEG', 'WebP', 'AVIF', 'BMP'],
  ]);
});

it('takes nothing else for one: films, sounds, short files', async () => {
  const others = [
    file([0, 0, 0, 32], 'ftypisom'),
    file('RIFF', [1, 2, 3, 4], 'WAVEfmt '),
    file([0x1a, 0x45, 0xdf, 0xa3]),
    new Blob([]),
    new Blob(['GIF']),
  ];
  expect(await Promise.all(others.map(pictureType))).toEqual(others.map(() => undefined));
});
