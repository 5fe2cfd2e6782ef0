import type { Framing } from '@skipback/core/project/schema';

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Where a picture is drawn in a frame, centred, whole pixels; it may reach over the frame's edges. Fit shows
 * all of it, fill leaves no border, centre keeps its pixels at `scale` frame pixels each.
 */
export function placeInFrame(
  picture: { readonly width: number; readonly height: number },
  frame: { readonly width: number; readonly height: number },
  framing: Framing,
  scale = 1,
): Box {
  const across = frame.width / picture.width;
  const down = frame.height / picture.height;
  const by =
    framing === 'centre' ? scale : framing === 'fill' ? Math.max(across, down) : Math.min(across, down);
  const width = Math.round(picture.width * by);
  const height = Math.round(picture.height * by);
  return {
    x: Math.round((frame.width - width) / 2),
    y: Math.round((frame.height - height) / 2),
    width,
    height,
  };
}
