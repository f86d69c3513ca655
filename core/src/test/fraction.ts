/** An exact fraction. For tests: slow, never rounded. */
export class Fraction {
  readonly top: bigint;
  readonly bottom: bigint;

  private constructor(top: bigint, bottom: bigint) {
    this.top = top;
    this.bottom = bottom;
  }

  static of(top: bigint, bottom = 1n): Fraction {
    const sign = bottom < 0n ? -1n : 1n;
    const divisor = gcd(top < 0n ? -top : top, bottom * sign) || 1n;
    return new Fraction((sign * top) / divisor, (sign * bottom) / divisor);
  }

  /** The number as it is written in a design file: its shortest decimal text. */
  static from(value: number): Fraction {
    const [, sign, whole, decimals = "", power = "0"] = /^(-?)(\d+)(?:\.(\d+))?(?:e([-+]\d+))?$/.exec(String(value))!;
    const digits = BigInt(whole! + decimals);
    const shift = Number(power) - decimals.length;
    const scaled = shift >= 0 ? Fraction.of(digits * 10n ** BigInt(shift)) : Fraction.of(digits, 10n ** BigInt(-shift));
    return sign ? scaled.times(Fraction.of(-1n)) : scaled;
  }

  plus = (o: Fraction): Fraction => Fraction.of(this.top * o.bottom + o.top * this.bottom, this.bottom * o.bottom);
  minus = (o: Fraction): Fraction => Fraction.of(this.top * o.bottom - o.top * this.bottom, this.bottom * o.bottom);
  times = (o: Fraction): Fraction => Fraction.of(this.top * o.top, this.bottom * o.bottom);
  over = (o: Fraction): Fraction => Fraction.of(this.top * o.bottom, this.bottom * o.top);
  abs = (): Fraction => (this.top < 0n ? Fraction.of(-this.top, this.bottom) : this);
  less = (o: Fraction): boolean => this.top * o.bottom < o.top * this.bottom;
  most = (o: Fraction): boolean => !o.less(this);
  same = (o: Fraction): boolean => this.top === o.top && this.bottom === o.bottom;

  /** The next whole number at or above. */
  ceil = (): Fraction => {
    const whole = this.top / this.bottom;
    return Fraction.of(whole * this.bottom < this.top ? whole + 1n : whole);
  };

  toNumber = (): number => Number(this.top) / Number(this.bottom);
}

function gcd(a: bigint, b: bigint): bigint {
  while (b) [a, b] = [b, a % b];
  return a;
}

export const min = (a: Fraction, ...rest: Fraction[]): Fraction => rest.reduce((x, y) => (y.less(x) ? y : x), a);
export const max = (a: Fraction, ...rest: Fraction[]): Fraction => rest.reduce((x, y) => (x.less(y) ? y : x), a);
