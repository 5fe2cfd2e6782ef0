import type { OwnSound } from '@skipback/core/project/schema';
import { MIX_RATE_HZ } from '@skipback/core/sound/stereo';
import { PEAK_SAMPLES } from '@skipback/media/sound/messages';
import { useOwnSound } from '../../state/own-sounds';

/** How loud a sound file is, as an outline in a box of pixels; a flat line while it is read or where it is gone. */
export function OwnOutline({
  own,
  lastsS,
  width,
  height,
  ...drawn
}: {
  readonly own: OwnSound;
  readonly lastsS: number;
  readonly width: number;
  readonly height: number;
  readonly fill: string;
  readonly stroke: string;
  readonly strokeWidth: number;
}) {
  const peaks = useOwnSound(own)?.peaks;
  const steps = Math.max(2, Math.min(400, Math.round(width / 2)));
  const points = Array.from({ length: steps + 1 }, (_, i) => {
    const at = (share: number) => {
      const heard = own.fromS + share * lastsS;
      return ((own.backward ? own.lengthS - heard : heard) * MIX_RATE_HZ) / PEAK_SAMPLES;
    };
    const [a, b] = [at(i / steps), at((i + 1) / steps)].sort((x, y) => x - y) as [number, number];
    let peak = 0;
    if (peaks)
      for (let p = Math.max(0, Math.floor(a)); p < Math.min(peaks.length, b); p++)
        peak = Math.max(peak, peaks[p]!);
    const x = 0.75 + (i / steps) * (width - 1.5);
    return `${x.toFixed(1)},${(height - 2 - Math.min(1, peak) * (height - 5)).toFixed(1)}`;
  });
  return <path d={`M0.75,${height - 2} L${points.join(' L')} L${width - 0.75},${height - 2} Z`} {...drawn} />;
}
