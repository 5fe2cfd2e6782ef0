export interface Measured {
  readonly resultFrames: number;
  readonly distinctFrames: number;
  readonly leadInFrames: number;
  readonly plannedDecodes: number;
  readonly decodedFrames: number;
  readonly renderFps: number;
  readonly bareFps: number;
  readonly peakBytes: number;
  readonly leftOpen: number;
}
