import type { Pyramid } from './luma';
import { type Found, Patch, type Pose } from './patch';

/** Halvings of a picture that following needs. */
export const LEVELS = 5;

/** What following knows of a frame: where it is and how sure that is, 0 to 100; undefined where it is lost. */
export type Step = { readonly pose: Pose; readonly sure: number } | undefined;

/** Part of a patch that has to fit for it to be still there, and to be found again after it was lost. */
const STILL_FITS = 0.45;
const FITS_AGAIN = 0.7;
const ALIKE = 0.35;
const ALIKE_AGAIN = 0.6;
/** Likeness from afar from which on a place is looked at closely. */
const LIKELY = 0.2;
/** What is found again must be more alike than any other place by this. */
const ALONE_BY = 0.06;
/** The first look stands for the thing as long as it is this alike; then the last look that was surely it does. */
const STILL_THE_FIRST = 0.75;
/** How far from where the last look says the first look may say it is, pixels and parts of the patch. */
const AGREE_PX = 2;
const AGREE_PART = 0.06;
/** Likeness, and part of a patch that has to fit, for its look to become the last one: while something passes before it, it does not. */
const KEEPS_ITS_LOOK = 0.6;
/** Pixels around where it should be in which it is looked for, and where that finds nothing. */
const NEAR = 48;
const FARTHER = 160;
/** Pixels around where it should be in which each place is looked at closely. */
const CLOSE = 14;
/** Most that size may change from one frame to the next, and turn, degrees. */
const MOST_LARGER = 1.25;
const MOST_TURNED = 30;
/** Halvings above its own level at which a patch is looked for from afar. */
const AFAR = 2;
/** Likeness and part that fits, together, from which on it is where it was expected. */
const GOES_ON = 1.85;
/** Likeness and part that fits, together, by which another place than on its way must be better. */
const CLEARLY = 0.12;
/** Part that fits, or likeness, below which something may lie before it. */
const COVERED = 0.72;
/** Frames in a row the last look may be needed before it becomes the first. */
const PATIENCE = 2;

const { hypot, max, min, abs, round } = Math;

/**
 * Follows one thing from a frame on, one picture after the other (they may go backward in time): looked for from afar
 * around where it should be, aligned with its last look, then with its first one, so that nothing drifts while it looks
 * the same (after Matthews, Ishikawa and Baker 2004). Lost, it is looked for until it is there again; no place is
 * made up in between.
 */
export class Follower {
  private first: Patch;
  private readonly recent: Patch;
  private readonly wide: Patch;
  private pose: Pose;
  private speed = { x: 0, y: 0, turn: 0 };
  private lostFor = 0;
  private changed = 0;
  private readonly reach: number;

  /** `width` and `height` of what is followed, pixels at size 1. */
  constructor(
    pyramid: Pyramid,
    pose: Pose,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.pose = pose;
    this.first = new Patch(pyramid, pose, width, height);
    this.recent = new Patch(pyramid, pose, width, height);
    this.wide = new Patch(pyramid, pose, width, height, AFAR);
    this.reach = hypot(width, height) / 2;
  }

  /** Whether there is anything to hold on to: not so on even ground, along one edge, in darkness. */
  get holds(): boolean {
    return this.first.holds;
  }

  /** Where it is in the next picture. */
  next(pyramid: Pyramid): Step {
    const found = this.lostFor === 0 ? this.here(pyramid) : this.again(pyramid);
    if (!found || !inside(pyramid, found.pose)) {
      this.lostFor++;
      return undefined;
    }
    const [before, after] = [this.pose, found.pose];
    const frames = this.lostFor + 1;
    this.speed = {
      x: (after.x - before.x) / frames,
      y: (after.y - before.y) / frames,
      turn: this.lostFor === 0 ? after.turn - before.turn : 0,
    };
    this.lostFor = 0;
    this.pose = after;
    if (found.fits > KEEPS_ITS_LOOK) {
      this.recent.renew(pyramid, after);
      this.wide.renew(pyramid, after);
    }
    return { pose: after, sure: surenessOf(found) };
  }

  /** Where it goes on from the last picture; undefined where it is not. */
  private here(pyramid: Pyramid): Found | undefined {
    const expected = moved(this.pose, this.speed, 1);
    const onItsWay = this.near(pyramid, expected);
    // Where it goes on as it went there is no need to look around.
    if (score(onItsWay) >= GOES_ON) return this.checked(pyramid, onItsWay);
    const seenFromAfar = (radius: number) =>
      this.wide.seek(pyramid, expected, max(radius, 0.5 * this.reach), 2);
    const among = (seen: readonly Pose[]) => {
      let best = onItsWay;
      // What is off its way has to be clearly more alike than what is on it.
      const more = this.isThere(best) ? CLEARLY : 0;
      for (const other of seen.map((from) => this.near(pyramid, from)))
        if (score(other) > max(score(best), score(onItsWay) + more)) best = other;
      return this.checked(pyramid, best);
    };
    return (
      among(seenFromAfar(NEAR)) ??
      // A fine texture is seen from close by only.
      among(this.recent.seek(pyramid, expected, CLOSE, 2)) ??
      among(seenFromAfar(FARTHER))
    );
  }

  /** What was found, by its first look where that still stands for it; undefined where it isn't there. */
  private checked(pyramid: Pyramid, best: Found): Found | undefined {
    if (!this.isThere(best)) return undefined;
    const first = this.first.align(pyramid, best.pose, true);
    const off = hypot(first.pose.x - best.pose.x, first.pose.y - best.pose.y);
    if (
      first.alike >= STILL_THE_FIRST &&
      off < max(AGREE_PX, AGREE_PART * this.reach) &&
      this.isThere(first)
    ) {
      this.changed = 0;
      return first;
    }
    if (++this.changed > PATIENCE && best.fits > COVERED) {
      this.first = new Patch(pyramid, best.pose, this.width, this.height);
      this.changed = 0;
    }
    return best;
  }

  /** Where it is around a place, by its last look. */
  private near(pyramid: Pyramid, start: Pose): Found {
    const roughly = this.wide.align(pyramid, start, false, 8);
    const closely = (from: Pose) =>
      this.recent.align(pyramid, this.recent.align(pyramid, from, false).pose, true);
    if (!(roughly.alike > 0.4)) return closely(start);
    const best = closely(roughly.pose);
    if (score(best) >= GOES_ON) return best;
    // From afar something that blinks on it may have led aside.
    const other = closely(start);
    return score(other) > score(best) ? other : best;
  }

  private isThere({ pose, alike, fits }: Found): boolean {
    const expected = moved(this.pose, this.speed, 1);
    const off = hypot(pose.x - expected.x, pose.y - expected.y);
    // What is covered in part and leaves its way at once was taken along by what covers it.
    if (fits < COVERED && off > max(4, 0.06 * this.reach)) return false;
    const larger = pose.size / this.pose.size;
    const turned = abs(pose.turn - this.pose.turn - this.speed.turn);
    return (
      fits >= STILL_FITS &&
      alike >= ALIKE &&
      max(larger, 1 / larger) < MOST_LARGER &&
      (turned < MOST_TURNED || abs(pose.turn - this.pose.turn) < MOST_TURNED)
    );
  }

  /** Where it turned up again. */
  private again(pyramid: Pyramid): Found | undefined {
    const ahead = moved(this.pose, this.speed, min(this.lostFor + 1, 8));
    const from = { ...ahead, turn: this.pose.turn };
    const radius = min(220, max(48, this.reach) + 12 * this.lostFor);
    const found = this.wide
      .seek(pyramid, from, radius, 3)
      .filter((s) => s.alike > LIKELY)
      .flatMap((s) => [this.recent, this.first].map((patch) => patch.align(pyramid, s, true)))
      .sort((a, b) => b.alike - a.alike);
    const [best] = found;
    if (!best || best.alike < ALIKE_AGAIN || best.fits < FITS_AGAIN) return undefined;
    const larger = best.pose.size / this.pose.size;
    if (max(larger, 1 / larger) > MOST_LARGER ** 2) return undefined;
    const apart = (f: Found) => hypot(f.pose.x - best.pose.x, f.pose.y - best.pose.y) > 0.3 * this.reach;
    if (found.some((f) => apart(f) && f.alike > best.alike - ALONE_BY)) return undefined;
    return best;
  }
}

const score = ({ alike, fits }: Found): number => alike + fits;

/** 100 where all of it fits and is alike, 0 where it would be called lost. */
const surenessOf = ({ alike, fits }: Found): number =>
  round(
    100 * min(1, max(0.01, min((alike - ALIKE) / (0.95 - ALIKE), (fits - STILL_FITS) / (0.9 - STILL_FITS)))),
  );

const moved = (pose: Pose, speed: { x: number; y: number; turn: number }, by: number): Pose => ({
  ...pose,
  x: pose.x + speed.x * by,
  y: pose.y + speed.y * by,
  turn: pose.turn + speed.turn * by,
});

const inside = ([whole]: Pyramid, { x, y }: Pose): boolean =>
  x >= 0 && y >= 0 && x <= whole!.width && y <= whole!.height;
