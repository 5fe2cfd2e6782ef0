/** The largest rectangle of a picture's shape inside a frame, centred, whole pixels. */
export function fitInside(
  picture: { width: number; height: number },
  frame: { width: number; height: number },
): { x: number; y: number; width: number; height: number } {
  const scale = Math.min(frame.width / picture.width, frame.height / picture.height);
  const width = Math.min(frame.width, Math.round(picture.width * scale));
  const height = Math.min(frame.height, Math.round(picture.height * scale));
  return {
    x: Math.round((frame.width - width) / 2),
    y: Math.round((frame.height - height) / 2),
    width,
    height,
  };
}
