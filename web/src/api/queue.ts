/** One request after another: a late save must not meet its own successor. A failure is its caller's; the next goes on. */
export function queue() {
  let last: Promise<unknown> = Promise.resolve();
  return function inTurn<T>(work: () => Promise<T>): Promise<T> {
    const next = last.then(work, work);
    last = next.catch(() => undefined);
    return next;
  };
}
