/** Tells a finger that touched twice from one that goes on: of what is on its way, the last once more is the same touch. Back to what came
 * before the last is a change. */
export class Twice<T> {
  private last: { given: T } | null = null;

  /** Whether this is a touch of its own; it is the last from now on. */
  begins(given: T): boolean {
    if (this.last && alike(this.last.given, given)) return false;
    this.last = { given };
    return true;
  }

  /** It is done, or refused: the same may come again. */
  ends(given: T): void {
    if (this.last?.given === given) this.last = null;
  }
}

/** Whether two say the same; a file is like itself alone. */
function alike(a: unknown, b: unknown): boolean {
  return a === b || (!(a instanceof Blob || b instanceof Blob) && JSON.stringify(a) === JSON.stringify(b));
}
