/** Work done one after another: each waits for the one before, whether that went
 * well or not. */
export class Queue {
  private last: Promise<unknown> = Promise.resolve();

  add<T>(work: () => Promise<T>): Promise<T> {
    const next = this.last.then(work, work);
    this.last = next.catch(() => undefined);
    return next;
  }
}
