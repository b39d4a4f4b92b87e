import { hashOfNumber, hashOfText } from './valueHash.ts';

/** Registers: 2^precision; the standard error of the estimate is 1.04 / sqrt(registers), 2.3 % here. */
const precision = 11;
const registers = 1 << precision;
const alpha = 0.7213 / (1 + 1.079 / registers);

/**
 * Estimates how many different values there are (HyperLogLog: Flajolet, Fusy, Gandouet, Meunier, 2007), in two
 * kilobytes however many there are. Two of them can be joined.
 */
export class DistinctSketch {
  private readonly most = new Uint8Array(registers);

  add(value: string | number | boolean): void {
    const hash = typeof value === 'string' ? hashOfText(value) : typeof value === 'number' ? hashOfNumber(value) : hashOfText(`?${value}`);
    const at = hash >>> (32 - precision);
    const rank = Math.clz32((hash << precision) | (1 << (precision - 1))) + 1;
    if (rank > this.most[at]!) this.most[at] = rank;
  }

  join(other: DistinctSketch): void {
    for (let i = 0; i < registers; i++) if (other.most[i]! > this.most[i]!) this.most[i] = other.most[i]!;
  }

  get estimate(): number {
    let sum = 0;
    let empty = 0;
    for (const rank of this.most) {
      sum += 2 ** -rank;
      if (rank === 0) empty++;
    }
    const raw = (alpha * registers * registers) / sum;
    // Small counts are told better by how many registers are empty still.
    return Math.round(raw <= 2.5 * registers && empty > 0 ? registers * Math.log(registers / empty) : raw);
  }
}
