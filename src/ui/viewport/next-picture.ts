/** How long a view that has become empty stays as it is, ms: what is to be shown next mostly comes at once. */
const PATIENCE = 120;

/** Draws once for all that changed since the last frame. What shows nothing waits a little for what comes next. */
export class NextPicture {
  private frame: number | null = null;
  /** When nothing was first to be drawn: not when the view was made, since all that a page does at first lies between. */
  private emptyFrom: number | null = null;

  /** @param draw draws the picture. @param empty whether there is nothing in it. */
  constructor(
    private readonly draw: () => void,
    private readonly empty: () => boolean,
  ) {}

  /** Asks for a picture, drawn at the next frame of the screen. */
  ask(): void {
    if (this.frame === null) this.frame = requestAnimationFrame(this.step);
  }

  /** The view has lost all that it showed. */
  emptied(): void {
    this.emptyFrom = null;
  }

  stop(): void {
    if (this.frame !== null) cancelAnimationFrame(this.frame);
    this.frame = null;
  }

  private readonly step = (): void => {
    this.emptyFrom ??= performance.now();
    if (this.empty() && performance.now() - this.emptyFrom < PATIENCE) {
      this.frame = requestAnimationFrame(this.step);
      return;
    }
    // Still asked for while it is drawn: what drawing itself sets right asks for no other picture.
    // A picture that could not be drawn is not the last one that is asked for.
    try {
      this.draw();
    } finally {
      this.frame = null;
    }
  };
}
