/**
 * A sum of numbers without error, rounded once when it is asked for, so that it is the same in whatever order they come
 * (Shewchuk, *Adaptive precision floating-point arithmetic*, 1997).
 *
 * Two doubles hold the sums that people have; what does not fit into them is kept beside them, whole: see `BigSum`.
 */
export class ExactSum {
  private high = 0;
  private low = 0;
  private rest: BigSum | undefined;

  add(x: number): void {
    const sum = this.high + x;
    const part = sum - this.high;
    const error = this.high - (sum - part) + (x - part);
    if (error === 0) this.high = sum;
    else this.carry(x, sum, error);
  }

  private carry(x: number, sum: number, error: number): void {
    // Neither is finite where the sum is beyond a double, though what comes yet may bring it back.
    if (error - error !== 0) {
      (this.rest ??= new BigSum()).add(x);
      return;
    }
    this.high = sum;
    const low = this.low + error;
    const part = low - this.low;
    const lost = this.low - (low - part) + (error - part);
    this.low = low;
    if (lost !== 0) (this.rest ??= new BigSum()).add(lost);
  }

  /** The double nearest to the sum, ties to even; infinite where it is beyond a double. */
  get value(): number {
    if (this.rest === undefined) return this.high + this.low;
    return roundedQuotient(this.units, 1n, unitBits);
  }

  /** The sum in units of the least double, 2^-1074. */
  get units(): bigint {
    return unitsOf(this.high) + unitsOf(this.low) + (this.rest?.units ?? 0n);
  }
}

/** A sum of doubles in units of the least one: exact whatever they are, and slow. */
export class BigSum {
  units = 0n;
  add(x: number): void {
    this.units += unitsOf(x);
  }
}

/** Every finite double is so many halvings of a whole number. */
export const unitBits = 1_074;

const view = new DataView(new ArrayBuffer(8));

/** A finite double in units of 2^-1074, exactly; of one that is none, nothing. */
export function unitsOf(x: number): bigint {
  if (x === 0 || x - x !== 0) return 0n;
  view.setFloat64(0, x);
  const bits = view.getBigUint64(0);
  const exponent = Number((bits >> 52n) & 0x7ffn);
  const fraction = bits & 0xf_ffff_ffff_ffffn;
  const units = exponent === 0 ? fraction : (fraction | 0x10_0000_0000_0000n) << BigInt(exponent - 1);
  return x < 0 ? -units : units;
}

/** The double nearest to `numerator / (divisor · 2^bits)`, ties to even; infinite where it is beyond a double. */
export function roundedQuotient(numerator: bigint, divisor: bigint, bits: number): number {
  if (numerator === 0n) return 0;
  const magnitude = numerator < 0n ? -numerator : numerator;
  // The last bit that a double of this size has; of the least doubles it is the last there is.
  const last = Math.max(leadingBit(magnitude, divisor) - bits - 52, -unitBits);
  const shift = BigInt(Math.abs(bits + last));
  const [above, below] = bits + last >= 0 ? [magnitude, divisor << shift] : [magnitude << shift, divisor];
  let whole = above / below;
  const twiceLeft = 2n * (above - whole * below);
  if (twiceLeft > below || (twiceLeft === below && (whole & 1n) === 1n)) whole += 1n;
  const value = halved(Number(whole), -last);
  return numerator < 0n ? -value : value;
}

/** The place of the leading bit of a quotient: 0 for 1, below zero for less. */
function leadingBit(above: bigint, below: bigint): number {
  const place = bitLength(above) - bitLength(below);
  const isBelow = place >= 0 ? above < below << BigInt(place) : above << BigInt(-place) < below;
  return isBelow ? place - 1 : place;
}

/** `whole / 2^times`, which is a double or too large for one; a power of two may be neither. */
function halved(whole: number, times: number): number {
  const first = Math.max(-1_000, Math.min(1_000, times));
  return whole * 2 ** -first * 2 ** (first - times);
}

function bitLength(value: bigint): number {
  const hex = value.toString(16);
  return hex.length * 4 - Math.clz32(parseInt(hex[0]!, 16)) + 28;
}
