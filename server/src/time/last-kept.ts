/** What was made last, so many of it; what was asked for longest ago is let go first. */
export class LastKept<T> {
  private readonly kept = new Map<string, T>();

  constructor(private readonly most: number) {}

  /** What is kept by a key, or made for it now. */
  get(key: string, make: () => T): T {
    const found = this.kept.has(key) ? (this.kept.get(key) as T) : make();
    this.kept.delete(key);
    this.kept.set(key, found);
    const [oldest] = this.kept.keys();
    if (this.kept.size > this.most && oldest !== undefined) this.kept.delete(oldest);
    return found;
  }
}
