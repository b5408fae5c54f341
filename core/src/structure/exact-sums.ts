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

/** Exact sums of money for many owners: by currency and denominator, as whole numbers of any size. */
export class MoneySums {
  // by owner: "currency denominator" → numerator; most owners have one or two
  private readonly sums: (Map<string, bigint> | undefined)[] = [];

  add(owner: number, currency: string, num: bigint, den: number): void {
    this.addTo(owner, `${currency} ${den}`, num);
  }

  rolledUp(parents: Int32Array): MoneySums {
    const all = new MoneySums();
    this.sums.forEach((own, at) => {
      if (own) all.sums[at] = new Map(own);
    });
    for (let at = parents.length - 1; at >= 0; at--) {
      const up = parents[at] as number;
      if (up >= 0) for (const [key, num] of all.sums[at] ?? []) all.addTo(up, key, num);
    }
    return all;
  }

  /** Whole amounts by currency, nearest, ties up. */
  of(owner: number): Record<string, number> {
    const exact = new Map<string, Sum>();
    for (const [key, num] of this.sums[owner] ?? []) {
      const currency = key.slice(0, 3);
      const den = BigInt(key.slice(4));
      const old = exact.get(currency);
      if (!old) exact.set(currency, { num, den });
      else if (old.den === den) old.num += num;
      else exact.set(currency, { num: old.num * den + num * old.den, den: old.den * den });
    }
    const amounts: Record<string, number> = {};
    for (const [currency, { num, den }] of exact) amounts[currency] = Number((num * 2n + den) / (den * 2n));
    return amounts;
  }

  private addTo(owner: number, key: string, num: bigint): void {
    const own = this.sums[owner] ?? new Map<string, bigint>();
    this.sums[owner] = own;
    own.set(key, (own.get(key) ?? 0n) + num);
  }
}
