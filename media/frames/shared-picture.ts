/** A picture with several holders; closed when the last one lets go. */
export class SharedPicture<T extends { close(): void }> {
  private holders = 1;

  constructor(
    readonly picture: T,
    readonly bytes: number,
  ) {}

  /** One more holder. Returns the same object. */
  retain(): this {
    this.holders++;
    return this;
  }

  release(): void {
    if (--this.holders === 0) this.picture.close();
  }
}
