import { type Asked, lacksOf } from './able';

const everything = {
  ...{ VideoDecoder: 1, VideoEncoder: 1, ImageDecoder: 1, WebAssembly: 1, OffscreenCanvas: 1, Worker: 1 },
  ...{ AudioWorkletNode: 1, showSaveFilePicker: 1, crossOriginIsolated: true },
};
const asked = (window: Record<string, unknown>, more: Partial<Asked> = {}): Asked => ({
  window,
  encodes: () => Promise.resolve(true),
  decodes: () => Promise.resolve(true),
  keepsFiles: () => Promise.resolve(true),
  ...more,
});
const without = (...names: string[]) =>
  Object.fromEntries(Object.entries(everything).filter(([name]) => !names.includes(name)));

it('says nothing where nothing is lacking', async () => {
  expect(await lacksOf(asked(everything))).toEqual([]);
});

it('says only what stops everything where it stops', async () => {
  const lacks = await lacksOf(asked(without('VideoDecoder', 'ImageDecoder')));
  expect(lacks.map((l) => [l.code, l.stops])).toEqual([['decode', true]]);
});

it('names the films that cannot be made, and goes on', async () => {
  const lacks = await lacksOf(
    asked(without('ImageDecoder', 'showSaveFilePicker'), {
      encodes: (c) => Promise.resolve(c.startsWith('vp09')),
    }),
  );
  expect(lacks.map((l) => l.code)).toEqual(['some-films', 'pictures', 'save']);
  expect(lacks[0]!.sentence).toContain('MP4 (H.264) or WebM (AV1)');
  expect(lacks.every((l) => !l.stops)).toBe(true);
});
