/** A longer array that begins with what another has. */
export function grownInts(array: Int32Array<ArrayBuffer>, length: number): Int32Array<ArrayBuffer> {
  const longer = new Int32Array(length);
  longer.set(array);
  return longer;
}

/** A longer array that begins with what another has. */
export function grownFloats(array: Float64Array<ArrayBuffer>, length: number): Float64Array<ArrayBuffer> {
  const longer = new Float64Array(length);
  longer.set(array);
  return longer;
}
