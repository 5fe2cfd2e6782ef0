import type { OnTheWay } from '../frames/frame-server';
import type { SharedPicture } from '../frames/shared-picture';

/** How long a still may take to come before another frame stands in for it, milliseconds. */
const AFTER_MS = 70;

/** Finds what stands in for a still that is long in coming: the nearest frame that is there, or the next that is decoded on the way. */
export class StandIn<T extends { close(): void }> implements OnTheWay<T> {
  private wanting = false;
  private readonly timer: ReturnType<typeof setTimeout>;

  /** `nearest` is asked once; `show` takes over the hold on what it gets. */
  constructor(
    nearest: () => SharedPicture<T> | undefined,
    private readonly show: (picture: SharedPicture<T>) => void,
  ) {
    this.timer = setTimeout(() => {
      const near = nearest();
      if (near) show(near);
      else this.wanting = true;
    }, AFTER_MS);
  }

  wants(): boolean {
    return this.wanting;
  }

  give(picture: SharedPicture<T>): void {
    this.wanting = false;
    this.show(picture);
  }

  /** The still has come, or is not wanted any more. */
  end(): void {
    clearTimeout(this.timer);
    this.wanting = false;
  }
}
