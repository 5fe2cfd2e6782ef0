import type { Framing } from '../project/schema';
import type { Similar } from './similar';

export interface Size {
  readonly width: number;
  readonly height: number;
}

export interface Box extends Size {
  readonly x: number;
  readonly y: number;
}

/**
 * Where a picture is drawn in a frame, centred, whole pixels; it may reach over the frame's edges. Fit shows
 * all of it, fill leaves no border, centre keeps its pixels at `scale` frame pixels each.
 */
export function placeInFrame(picture: Size, frame: Size, framing: Framing, scale = 1): Box {
  const by = scaleOf(picture, frame, framing, scale);
  const width = Math.round(picture.width * by);
  const height = Math.round(picture.height * by);
  return {
    x: Math.round((frame.width - width) / 2),
    y: Math.round((frame.height - height) / 2),
    width,
    height,
  };
}

function scaleOf(picture: Size, frame: Size, framing: Framing, scale: number): number {
  const across = frame.width / picture.width;
  const down = frame.height / picture.height;
  return framing === 'centre' ? scale : framing === 'fill' ? Math.max(across, down) : Math.min(across, down);
}

/** The same as where a clip's pixels come to lie in the project's picture, to a part of a pixel. */
export function framed(picture: Size, frame: Size, framing: Framing): Similar {
  const a = scaleOf(picture, frame, framing, 1);
  return { a, b: 0, x: (frame.width - a * picture.width) / 2, y: (frame.height - a * picture.height) / 2 };
}
