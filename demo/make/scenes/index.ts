/** Entry of the page that draws the clips; `draw.ts` bundles it and calls `begin` and `frame`. */
import { Stage, type Shot } from '../stage';
import { drummer } from './drummer';
import { lantern } from './lantern';
import { pinwheels } from './pinwheels';
import { runner } from './runner';
import { tea } from './tea';
import { tram } from './tram';

const SHOTS: Record<string, () => Shot> = { drummer, lantern, pinwheels, runner, tea, tram };

let stage: Stage | undefined;
let shot: Shot | undefined;

/** Builds one shot at a picture size. */
export function begin(name: string, width: number, height: number): void {
  stage = new Stage(width, height);
  shot = SHOTS[name]!();
}

/** Exposes a frame and returns it as a base64 JPEG. */
export function frame(index: number, rateHz: number, samples: number): string {
  stage!.expose(shot!, index, rateHz, samples);
  return stage!.canvas.toDataURL('image/jpeg', 0.97).split(',')[1]!;
}
