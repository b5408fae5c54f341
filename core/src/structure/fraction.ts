/** An exact fraction, `den` > 0; sums and comparisons of shares never round (3 × 12.5 of 37.5 h is 1). */
export type Fraction = { num: bigint; den: bigint };

const gcd = (a: bigint, b: bigint): bigint => (b === 0n ? (a < 0n ? -a : a) : gcd(b, a % b));

/** An exact fraction in lowest terms. The denominator is not 0. */
export const fraction = (num: number | bigint, den: number | bigint = 1): Fraction => {
  const [n, d] = [BigInt(num), BigInt(den)];
  const divisor = gcd(n, d) || 1n;
  return { num: n / divisor, den: d / divisor };
};

/** Nothing. */
export const ZERO = fraction(0);
/** a + b */
export const plus = (a: Fraction, b: Fraction): Fraction =>
  a.den === b.den ? fraction(a.num + b.num, a.den) : fraction(a.num * b.den + b.num * a.den, a.den * b.den);
/** a × b */
export const times = (a: Fraction, b: Fraction): Fraction => fraction(a.num * b.num, a.den * b.den);
/** a − b */
export const minus = (a: Fraction, b: Fraction): Fraction => plus(a, { num: -b.num, den: b.den });
/** a ÷ b; b is not 0. */
export const divided = (a: Fraction, b: Fraction): Fraction =>
  b.num < 0n ? fraction(-a.num * b.den, a.den * -b.num) : fraction(a.num * b.den, a.den * b.num);
/** All of them added up. */
export const sum = (all: readonly Fraction[]): Fraction => all.reduce(plus, ZERO);
/** Whether a > b. */
export const exceeds = (a: Fraction, b: Fraction): boolean => a.num * b.den > b.num * a.den;
/** The greater of two. */
export const larger = (a: Fraction, b: Fraction): Fraction => (exceeds(a, b) ? a : b);
/** Whether it is nothing. */
export const isZero = ({ num }: Fraction): boolean => num === 0n;

/** Hundredths, nearest, ties up: for showing only. */
export const hundredths = ({ num, den }: Fraction): number =>
  Number((num * 200n + den) / (den * 2n)) - (num < 0n && (num * 200n + den) % (den * 2n) !== 0n ? 1 : 0);

/** As decimal text with so many places, nearest, ties away from zero. */
export const rounded = (value: Fraction, places: number): string => {
  const isLess = value.num < 0n;
  const scaled = (isLess ? -value.num : value.num) * 10n ** BigInt(places) * 2n + value.den;
  const digits = String(scaled / (value.den * 2n)).padStart(places + 1, '0');
  const text = places === 0 ? digits : `${digits.slice(0, -places)}.${digits.slice(-places)}`;
  return isLess && /[1-9]/.test(digits) ? `-${text}` : text;
};

/** As a decimal number, for ratios and means only. */
export const toNumber = ({ num, den }: Fraction): number => Number(num) / Number(den);
