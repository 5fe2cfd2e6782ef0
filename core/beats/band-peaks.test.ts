import { bandPeaks } from './band-peaks';

const RATE_HZ = 48_000;

it.each([
  [60, 'low'],
  [800, 'mid'],
  [9000, 'high'],
] as const)('a tone of %d hertz is loudest in the %s band', (hz, band) => {
  const left = Float32Array.from(
    { length: RATE_HZ / 2 },
    (_, i) => 0.8 * Math.sin((2 * Math.PI * hz * i) / RATE_HZ),
  );
  const peaks = bandPeaks({ left, right: left, rateHz: RATE_HZ }, 480);
  expect(peaks[band]).toHaveLength(50);
  const others = (['low', 'mid', 'high'] as const).filter((b) => b !== band);
  for (const other of others) expect(peaks[band][30]!).toBeGreaterThan(2 * peaks[other][30]!);
  expect(peaks[band][30]!).toBeGreaterThan(0.45);
});
