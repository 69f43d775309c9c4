/** Paper that nobody has drawn on yet is made piece by piece, so that a stroke need not wait for it. */

import { turn } from "./turns";
import type { Surface } from "./wasm/saltmarsh_browser";

/** Makes a piece of a surface's paper; false where there are not so many. */
type Make = (surface: Surface, piece: number) => boolean;

export class Preparing {
  private newest = 0;

  /**
   * `idle`: resolves when nothing more urgent is under way; `shown`: when the frame that was asked for is. Turns alone would keep frames
   * waiting for seconds: Chromium puts the messages of a worker before them.
   */
  constructor(
    private idle: () => Promise<void>,
    private shown: () => Promise<unknown>,
  ) {}

  /**
   * Begins to prepare the surface that `on` gives, in place of what was being prepared; nothing where it is not wanted any more. What it gives
   * makes pieces until there are no more; false where it ended before.
   */
  begin(on: () => Surface | null): (make: Make) => Promise<boolean> {
    const number = ++this.newest;
    return async (make) => {
      for (let piece = 0; ; ) {
        await this.idle();
        await this.shown();
        await turn();
        const surface = on();
        if (!surface || number !== this.newest) return false;
        // What time that is under way waits for comes first.
        if (surface.busy && surface.prepareStep()) continue;
        if (!make(surface, piece)) return true;
        piece++;
      }
    };
  }
}
