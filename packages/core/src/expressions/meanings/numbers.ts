export function finite(value: number): number | undefined {
  return Number.isFinite(value) ? value : undefined;
}

/** Rounds to so many digits after the point, halves away from zero, on the number's decimal text. */
export function round(x: number, digits: unknown): number | undefined {
  const places = typeof digits === 'number' ? digits : 0;
  if (!Number.isInteger(places) || Math.abs(places) > 100) return undefined;
  // Shifting the decimal exponent keeps 1.005 a half: x * 100 would be 100.49999999999999.
  const [mantissa, exponent = '0'] = String(Math.abs(x)).split('e');
  const shifted = Math.round(Number(`${mantissa}e${Number(exponent) + places}`));
  const [back, backExponent = '0'] = String(shifted).split('e');
  return finite(Math.sign(x) * Number(`${back}e${Number(backExponent) - places}`));
}
