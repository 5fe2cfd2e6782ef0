import type { AnyTreatment } from './treatment';
import { backdrop } from './treatments/backdrop';
import { blur } from './treatments/blur';
import { flash } from './treatments/flash';
import { grade } from './treatments/grade';
import { overlay } from './treatments/overlay';
import { outline } from './treatments/outline';
import { plate } from './treatments/plate';
import { punch } from './treatments/punch';
import { shake } from './treatments/shake';
import { sign } from './treatments/sign';
import { smear } from './treatments/smear';
import { split } from './treatments/split';
import { strobe } from './treatments/strobe';
import { tint } from './treatments/tint';
import { tornBars } from './treatments/torn-bars';
import { trail } from './treatments/trail';
import { vignette } from './treatments/vignette';
import { wornTape } from './treatments/worn-tape';

/** All treatments, in the order in which they are offered. */
export const TREATMENTS = [
  flash,
  strobe,
  split,
  outline,
  punch,
  shake,
  grade,
  vignette,
  blur,
  smear,
  trail,
  tint,
  backdrop,
  plate,
  overlay,
  wornTape,
  tornBars,
  sign,
] as unknown as readonly AnyTreatment[];

export const treatmentById = (id: string): AnyTreatment | undefined => TREATMENTS.find((t) => t.id === id);
