import { fraction, hundredths, plus, ZERO } from './fraction';

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/**
 * Exact sums of fractions for many owners at once: numerators are added up for each denominator met, as whole numbers, and
 * only what is shown is rounded. Exact while a numerator's sum stays below 2^53.
 */
export class ExactSums {
  private readonly sums = new Map<number, Float64Array>();
  private common: { den: number; nums: Float64Array } | undefined;

  constructor(private readonly owners: number) {}

  add(owner: number, num: number, den: number): void {
    this.common = undefined;
    let sums = this.sums.get(den);
    if (!sums) this.sums.set(den, (sums = new Float64Array(this.owners)));
    sums[owner] = (sums[owner] as number) + num;
  }

  /** Sums of the owners with those of all below them; `parents` come before their children, `-1` is a top. */
  rolledUp(parents: Int32Array): ExactSums {
    const all = new ExactSums(this.owners);
    for (const [den, sums] of this.sums) {
      const branch = Float64Array.from(sums);
      for (let at = branch.length - 1; at >= 0; at--) {
        const up = parents[at] as number;
        if (up >= 0) branch[up] = (branch[up] as number) + (branch[at] as number);
      }
      all.sums.set(den, branch);
    }
    return all;
  }

  /** The sum of an owner in hundredths, nearest, ties up. */
  hundredths(owner: number): number {
    const { den, nums } = (this.common ??= this.overOne());
    const num = nums[owner] as number;
    if (!(Math.abs(num) * 400 <= Number.MAX_SAFE_INTEGER)) return this.exactly(owner);
    const doubled = num * 200 + den;
    return (doubled - modulo(doubled, den * 2)) / (den * 2);
  }

  // All sums over one denominator; where that grows too large they are no numbers, and each is worked out by itself.
  private overOne(): { den: number; nums: Float64Array } {
    let den = 1;
    for (const other of this.sums.keys()) den = (den / gcd(den, other)) * other;
    const nums = new Float64Array(this.owners);
    if (den > 2 ** 40) return { den, nums: nums.fill(NaN) };
    for (const [other, sums] of this.sums)
      for (let at = 0; at < nums.length; at++)
        nums[at] = (nums[at] as number) + (sums[at] as number) * (den / other);
    return { den, nums };
  }

  private exactly(owner: number): number {
    let sum = ZERO;
    for (const [den, sums] of this.sums) sum = plus(sum, fraction(sums[owner] as number, den));
    return hundredths(sum);
  }
}

const modulo = (a: number, b: number): number => ((a % b) + b) % b;

type Sum = { num: bigint; den: bigint };

const LIMB = 2 ** 32;

// Sums of one currency over one denominator, of many owners: whole numbers of any size in two parts that add up without
// loss, high × 2^32 + low.
type Part = { currency: string; den: number; high: Float64Array; low: Float64Array };

/** Exact sums of money for many owners: by currency and denominator, as whole numbers of any size. */
export class MoneySums {
  private readonly parts: Part[] = [];
  private readonly byCurrency = new Map<string, Map<number, Part>>();

  constructor(private readonly owners: number) {}

  /** Adds `num / den` of a currency; `num` is a whole number, exact as it is given. */
  add(owner: number, currency: string, num: number | bigint, den: number): void {
    const { high, low } = this.part(currency, den);
    const isSmall = typeof num === 'number' && Number.isSafeInteger(num);
    const up = isSmall ? Math.floor(num / LIMB) : Number(BigInt(num) >> 32n);
    const down = isSmall ? num - up * LIMB : Number(BigInt(num) & 0xffffffffn);
    high[owner] = (high[owner] as number) + up;
    low[owner] = (low[owner] as number) + down;
  }

  /** Sums of the owners with those of all below them; `parents` come before their children, `-1` is a top. */
  rolledUp(parents: Int32Array): MoneySums {
    const all = new MoneySums(this.owners);
    for (const own of this.parts) {
      const { high, low } = all.part(own.currency, own.den);
      high.set(own.high);
      low.set(own.low);
      for (let at = parents.length - 1; at >= 0; at--) {
        const up = parents[at] as number;
        if (up < 0) continue;
        high[up] = (high[up] as number) + (high[at] as number);
        low[up] = (low[up] as number) + (low[at] as number);
      }
    }
    return all;
  }

  /** Whole amounts by currency, nearest, ties up. */
  of(owner: number): Record<string, number> {
    const amounts: Record<string, number> = {};
    for (let i = 0; i < this.parts.length; i++) {
      const { currency, den, high, low } = this.parts[i] as Part;
      if (high[owner] === 0 && low[owner] === 0) continue;
      const num = (high[owner] as number) * LIMB + (low[owner] as number);
      // mostly one denominator, and a sum that a number holds exactly
      const isPlain = amounts[currency] === undefined && Math.abs(num) * 2 + den <= Number.MAX_SAFE_INTEGER;
      amounts[currency] = isPlain ? Math.floor((num * 2 + den) / (den * 2)) : this.exactly(owner, currency);
    }
    return amounts;
  }

  private exactly(owner: number, currency: string): number {
    const { num, den } = this.parts
      .filter((part) => part.currency === currency)
      .map(({ den, high, low }): Sum => ({
        num: BigInt(high[owner] as number) * BigInt(LIMB) + BigInt(low[owner] as number),
        den: BigInt(den),
      }))
      .reduce(added);
    return Number(floorDiv(num * 2n + den, den * 2n));
  }

  private part(currency: string, den: number): Part {
    let byDen = this.byCurrency.get(currency);
    if (!byDen) this.byCurrency.set(currency, (byDen = new Map()));
    let part = byDen.get(den);
    if (!part) {
      part = { currency, den, high: new Float64Array(this.owners), low: new Float64Array(this.owners) };
      byDen.set(den, part);
      this.parts.push(part);
    }
    return part;
  }
}

const added = (a: Sum, b: Sum): Sum =>
  a.den === b.den
    ? { num: a.num + b.num, den: a.den }
    : { num: a.num * b.den + b.num * a.den, den: a.den * b.den };

const floorDiv = (a: bigint, b: bigint): bigint => (a >= 0n ? a / b : -((-a + b - 1n) / b));
