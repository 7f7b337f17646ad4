/** `#rrggbb` to bytes; a light grey for anything else. */
export function colorBytes(hex: string | undefined): readonly [number, number, number] {
  const m = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(hex ?? '');
  return m ? [parseInt(m[1]!, 16), parseInt(m[2]!, 16), parseInt(m[3]!, 16)] : [200, 200, 196];
}

/** Hues a golden angle apart: neighbours in the list never look alike, however long it is. */
const GOLDEN = 0.618034;

/** A calm colour for an item, `[r, g, b]` 0…255. @param n any count, such as the index of the part */
export function itemColor(n: number): readonly [number, number, number] {
  const hue = (0.08 + n * GOLDEN) % 1;
  const [saturation, lightness] = [0.42, n % 2 ? 0.62 : 0.72];
  const a = saturation * Math.min(lightness, 1 - lightness);
  // CSS Color 4, HSL to RGB.
  const channel = (k: number) => {
    const m = (k + hue * 12) % 12;
    return Math.round(255 * (lightness - a * Math.max(-1, Math.min(m - 3, 9 - m, 1))));
  };
  return [channel(0), channel(8), channel(4)];
}

/** Linear light 0…1 to `#rrggbb` (IEC 61966-2-1). */
export function hexOfLinear(linear: readonly number[]): string {
  return hexOf(linear.slice(0, 3).map((v) => (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055)));
}

/** sRGB 0…1 to `#rrggbb`. */
export function hexOf(shown: readonly number[]): string {
  const channel = (v: number) =>
    Math.round(255 * Math.min(1, Math.max(0, v)))
      .toString(16)
      .padStart(2, '0');
  return `#${shown.map(channel).join('')}`;
}
