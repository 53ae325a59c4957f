/** Gathers what comes of the bands of a picture, each under the word it was asked with. */
export class Gathered<T> {
  private readonly came: ({ value: T; of: string; fresh: boolean } | null)[];
  constructor(count: number) {
    this.came = Array.from({ length: count }, () => null);
  }

  /**
   * Takes one band. Returns all of them when all were asked with the same word; and, where `mixed` ones may be shown (the
   * hand is faster than the workers), also when each has come anew since the last time.
   */
  add(i: number, value: T, of: string, mixed: boolean): T[] | null {
    this.came[i] = { value, of, fresh: true };
    if (!this.came.every((b) => b !== null && (b.of === of || (mixed && b.fresh)))) return null;
    return this.came.map((b) => {
      b!.fresh = false;
      return b!.value;
    });
  }
}
