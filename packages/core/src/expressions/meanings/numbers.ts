export function finite(value: number): number | undefined {
  return Number.isFinite(value) ? value : undefined;
}

/** Below this a double has all digits that its decimal text has, and some to spare. */
const roomy = 2 ** 40;

/** Rounds to so many digits after the point, halves away from zero, on the number's decimal text. */
export function round(x: number, digits: unknown): number | undefined {
  const places = typeof digits === 'number' ? digits : 0;
  if (!Number.isInteger(places) || Math.abs(places) > 100) return undefined;
  // Shifting the decimal exponent keeps 1.005 a half: x * 100 would be 100.49999999999999.
  const [mantissa = '', exponent = '0'] = String(Math.abs(x)).split('e');
  const shifted = Number(`${mantissa}e${Number(exponent) + places}`);
  const whole = shifted < roomy ? String(Math.round(shifted)) : roundedDigits(mantissa, Number(exponent) + places);
  const [back, backExponent = '0'] = whole.split('e');
  return finite(Math.sign(x) * Number(`${back}e${Number(backExponent) - places}`));
}

/** `mantissa · 10^exponent` to the next whole number, in decimal digits. */
function roundedDigits(mantissa: string, exponent: number): string {
  const [whole, part = ''] = mantissa.split('.');
  const cut = part.length - exponent;
  if (cut <= 0) return `${mantissa}e${exponent}`;
  const unit = 10n ** BigInt(cut);
  return String((BigInt(whole + part) + unit / 2n) / unit);
}
