/** What mattes and what is laid over a picture cost, on one core, without decoding. */
import { overlay } from '@skipback/core/looks/treatments/overlay';
import { Matter } from '@skipback/core/pixels/matter';
import { planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Surface, placed } from '@skipback/core/pixels/surface';

const [WIDTH, HEIGHT] = [1280, 720];

export function printLaying(): void {
  const noise = (seed: number) =>
    planesIn(
      Uint8Array.from(
        { length: planesBytes(WIDTH, HEIGHT) },
        (_, i) => 16 + ((i * 37 + seed * (i >> 7)) % 219),
      ),
      WIDTH,
      HEIGHT,
    );
  const [picture, other, clear] = [noise(1), noise(2), noise(3)];
  const surface = new Surface(WIDTH, HEIGHT);
  surface.load(picture);
  const timed = (draw: () => void): string => {
    for (let i = 0; i < 5; i++) draw();
    const from = performance.now();
    for (let i = 0; i < 20; i++) draw();
    return ((performance.now() - from) / 20).toFixed(1);
  };
  const laid = (blend: 'add' | 'normal') => ({ blend, share: 1 });
  const map = placed(surface, { zoom: 0.7, degrees: 12, x: 100, y: 0 });
  const kinds = {
    'plate laid': () => surface.lay(other),
    'overlay added': () => surface.laid(other, laid('add')),
    'with transparency': () => surface.laid(other, { ...laid('normal'), clear }),
    'turned and sized': () => surface.laid(other, { ...laid('normal'), clear, map }),
  };
  console.log(
    `${overlay.name} and plate at ${WIDTH}x${HEIGHT}, ms a picture: ${Object.entries(kinds)
      .map(([name, draw]) => `${name} ${timed(draw)}`)
      .join(', ')}`,
  );
  const matter = new Matter(WIDTH, HEIGHT);
  const making = { threshold: 7, softness: 5, clean: 4, feather: 3, grow: 0 };
  const half = matter.make(picture, other, making, 1);
  const how = { inverted: false };
  const steps = {
    'worked out': () => matter.make(picture, other, making, 1),
    'of a held piece': () => matter.make(picture, other, { ...making, held: { a: 1, b: 0, x: 3, y: 2 } }, 1),
    'spread over the picture': () => matter.spread(half, how, WIDTH, HEIGHT, 1),
    'and drawn through': () =>
      surface.within({ matte: matter.spread(half, how, WIDTH, HEIGHT, 1) }, 1, 1, () => undefined),
  };
  console.log(
    `Mattes at ${WIDTH}x${HEIGHT}, ms a picture: ${Object.entries(steps)
      .map(([name, run]) => `${name} ${timed(run)}`)
      .join(', ')}`,
  );
}
