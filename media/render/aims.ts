import type { RenderSettings } from './messages';

/** What each quality promises: how near the file's pictures come to those that went in, as PSNR in dB over all three planes. */
export const PROMISED_DB: Record<RenderSettings['quality'], number> = {
  draft: 33,
  good: 38,
  high: 41,
  finest: 44,
};
