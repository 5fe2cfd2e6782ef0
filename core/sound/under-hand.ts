import { readAtPlace } from './resample';
import type { Stereo } from './stereo';

/** A hand's place is reached within this, seconds: about as often as a pointer tells where it is. */
const GLIDE_S = 0.02;
/** The speed follows within this, seconds, so that nothing clicks. */
const SMOOTH_S = 0.004;
/** Fastest the record turns. */
const FASTEST = 16;
/** Below this speed it fades out. */
const SLOWEST = 0.05;

/**
 * Reads a sound as a hand moves it: told now and then where the hand is, it glides there, and is silent while the
 * hand rests.
 */
export class SoundUnderHand {
  private place = 0;
  private speed = 0;
  private wanted = 0;
  /** Samples for which the wanted speed still holds. */
  private left = 0;

  constructor(
    private readonly sound: Stereo,
    private readonly rateHz: number,
  ) {}

  /** Puts the hand down at an instant, in seconds. */
  putDown(atS: number): void {
    this.place = atS * this.sound.rateHz;
    this.speed = 0;
    this.wanted = 0;
    this.left = 0;
  }

  /** The hand is at an instant now, in seconds. */
  moveTo(atS: number): void {
    const glide = GLIDE_S * this.rateHz;
    const most = (FASTEST * this.sound.rateHz) / this.rateHz;
    this.wanted = Math.min(most, Math.max(-most, (atS * this.sound.rateHz - this.place) / glide));
    this.left = glide;
  }

  /** The next samples, into two channels of one length. */
  read(left: Float32Array, right: Float32Array): void {
    const follow = 1 / (SMOOTH_S * this.rateHz);
    const { sound } = this;
    for (let i = 0; i < left.length; i++) {
      if (this.left > 0) this.left--;
      else this.wanted = 0;
      this.speed += (this.wanted - this.speed) * follow;
      this.place += this.speed;
      const pace = Math.abs(this.speed);
      const level = Math.min(1, pace / SLOWEST);
      if (level < 0.002) {
        left[i] = 0;
        right[i] = 0;
        continue;
      }
      left[i] = level * readAtPlace(sound.left, this.place, this.speed);
      right[i] = level * readAtPlace(sound.right, this.place, this.speed);
    }
  }
}
