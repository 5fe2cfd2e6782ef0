import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { rational } from '@skipback/core/time/rational';
import { damageNotice } from './clip-facts';
import { inspectClip } from './inspect';

const media = join(import.meta.dirname ?? __dirname, '../../demo/media');
const demo = (name: string) => new Blob([readFileSync(join(media, name))]);

describe('what is said of a file', () => {
  it.each([
    ['drummer.mp4', rational(60), 300, 1280, 720, 'H.264'],
    ['pinwheels.webm', rational(30), 150, 1280, 720, 'VP9'],
    ['tea.mp4', rational(120), 360, 960, 540, 'H.264'],
    ['lantern.mp4', rational(30000, 1001), 120, 1280, 720, 'H.264'],
    ['tram.webm', rational(30), 180, 960, 540, 'VP9'],
  ])('%s', async (name, rate, count, width, height, codec) => {
    const found = await inspectClip(demo(name), name);
    expect(found).toMatchObject({
      ok: true,
      facts: { table: { kind: 'constant', rate, count }, width, height, codec, hasSound: true, notices: [] },
    });
  });

  it.each([
    ['nothing at all', new Blob([]), 'empty-file'],
    ['a text named .mp4', new Blob(['these are not the frames you wanted '.repeat(50)]), 'not-media'],
  ])('%s gets its sentence', async (_, blob, code) => {
    const found = await inspectClip(blob, 'x.mp4');
    expect(!found.ok && found.notice.code).toBe(code);
    expect(!found.ok && found.notice.wayOut).toBeTruthy();
  });

  it('a file cut off before its table says that it is broken', async () => {
    const whole = demo('drummer.mp4');
    const found = await inspectClip(whole.slice(0, Math.floor(whole.size / 2)), 'half.mp4');
    expect(!found.ok && found.notice.code).toBe('broken-file');
  });

  it('a WebM cut off in its middle is used as far as it goes, and says so', async () => {
    const whole = demo('tram.webm');
    const most = await inspectClip(whole.slice(0, Math.floor(whole.size * 0.97)), 'most.webm');
    expect(most).toMatchObject({
      ok: true,
      facts: { table: { count: 128 }, notices: [{ code: 'cut-off' }] },
    });
    const little = await inspectClip(whole.slice(0, 2000), 'little.webm');
    expect(!little.ok && little.notice.code).toBe('no-frames');
  });
});

describe('damaged frames', () => {
  const table = { kind: 'constant', rate: rational(30), count: 100 } as const;

  it('are told with their place, and what stands in for them', () => {
    expect(damageNotice([], table)).toBeUndefined();
    expect(damageNotice([7], table)!.text).toBe('Frame 7 is damaged.');
    expect(damageNotice([7, 8, 20], table)!.text).toBe('3 frames between 7 and 20 are damaged.');
    expect(
      damageNotice(
        Array.from({ length: 100 }, (_, i) => i),
        table,
      )!.level,
    ).toBe('error');
  });
});
