/** A small seeded source of chance (mulberry32): the same everywhere, from one seed. */
export class Chance {
  constructor(private state: number) {}

  /** From 0 up to, not including, 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  /** A whole number from `from` to `to`, both included. */
  int(from: number, to: number): number {
    return from + Math.floor(this.next() * (to - from + 1));
  }

  /** True with probability `p`. */
  is(p: number): boolean {
    return this.next() < p;
  }

  pick<T>(from: readonly T[]): T {
    return from[Math.floor(this.next() * from.length)] as T;
  }

  /** Takes one out of the list. */
  take<T>(from: T[]): T | undefined {
    const at = Math.floor(this.next() * from.length);
    const last = from.pop();
    if (at >= from.length || last === undefined) return last;
    const taken = from[at] as T;
    from[at] = last;
    return taken;
  }
}
