import { fraction, hundredths, plus, ZERO } from './fraction';

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/**
 * Exact sums of fractions for many owners at once: numerators are added up for each denominator met, as whole numbers, and
 * only what is shown is rounded. Exact while a numerator's sum stays below 2^53.
 */
export class ExactSums {
  private readonly sums = new Map<number, Float64Array>();

  constructor(private readonly owners: number) {}

  add(owner: number, num: number, den: number): void {
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
    let [num, den] = [0, 1];
    for (const [other, sums] of this.sums) {
      const part = sums[owner] as number;
      if (part === 0) continue;
      const common = (den / gcd(den, other)) * other;
      num = num * (common / den) + part * (common / other);
      den = common;
      if (Math.abs(num) * 400 > Number.MAX_SAFE_INTEGER || den > 2 ** 40) return this.exactly(owner);
    }
    const doubled = num * 200 + den;
    return (doubled - modulo(doubled, den * 2)) / (den * 2);
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

// Whole numbers of any size for many owners, as two parts that add up without loss: high × 2^32 + low.
type Limbs = { high: Float64Array; low: Float64Array };

/** Exact sums of money for many owners: by currency and denominator, as whole numbers of any size. */
export class MoneySums {
  private readonly sums = new Map<string, Map<number, Limbs>>();

  constructor(private readonly owners: number) {}

  /** Adds `num / den` of a currency; `num` is a whole number, exact as it is given. */
  add(owner: number, currency: string, num: number | bigint, den: number): void {
    const { high, low } = this.limbs(currency, den);
    const isSmall = typeof num === 'number' && Number.isSafeInteger(num);
    const up = isSmall ? Math.floor(num / LIMB) : Number(BigInt(num) >> 32n);
    const down = isSmall ? num - up * LIMB : Number(BigInt(num) & 0xffffffffn);
    high[owner] = (high[owner] as number) + up;
    low[owner] = (low[owner] as number) + down;
  }

  /** Sums of the owners with those of all below them; `parents` come before their children, `-1` is a top. */
  rolledUp(parents: Int32Array): MoneySums {
    const all = new MoneySums(this.owners);
    for (const [currency, byDen] of this.sums)
      for (const [den, own] of byDen) {
        const { high, low } = all.limbs(currency, den);
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
    for (const [currency, byDen] of this.sums) {
      const sums = [...byDen].filter(([, { high, low }]) => high[owner] !== 0 || low[owner] !== 0);
      if (sums.length > 0) amounts[currency] = rounded(sums, owner);
    }
    return amounts;
  }

  private limbs(currency: string, den: number): Limbs {
    let byDen = this.sums.get(currency);
    if (!byDen) this.sums.set(currency, (byDen = new Map()));
    let limbs = byDen.get(den);
    if (!limbs)
      byDen.set(den, (limbs = { high: new Float64Array(this.owners), low: new Float64Array(this.owners) }));
    return limbs;
  }
}

const rounded = (sums: readonly [den: number, limbs: Limbs][], owner: number): number => {
  const [[den, { high, low }]] = sums as [[number, Limbs]];
  const num = (high[owner] as number) * LIMB + (low[owner] as number);
  // mostly one denominator, and a sum that a number holds exactly
  if (sums.length === 1 && Math.abs(num) * 2 + den <= Number.MAX_SAFE_INTEGER)
    return Math.floor((num * 2 + den) / (den * 2));
  const { num: whole, den: over } = sums
    .map(([den, { high, low }]): Sum => ({
      num: BigInt(high[owner] as number) * BigInt(LIMB) + BigInt(low[owner] as number),
      den: BigInt(den),
    }))
    .reduce(added);
  return Number(floorDiv(whole * 2n + over, over * 2n));
};

const added = (a: Sum, b: Sum): Sum =>
  a.den === b.den
    ? { num: a.num + b.num, den: a.den }
    : { num: a.num * b.den + b.num * a.den, den: a.den * b.den };

const floorDiv = (a: bigint, b: bigint): bigint => (a >= 0n ? a / b : -((-a + b - 1n) / b));
