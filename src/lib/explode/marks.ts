/** Marks nearer than this would print over each other, px. */
const NEAR_PX = 24;

/** One mark for what lies at one place on the screen, with everything that it stands for. */
export function marksApart(
  hits: readonly { readonly through: number; readonly point: readonly [number, number] }[],
): { readonly point: readonly [number, number]; readonly through: readonly number[] }[] {
  const out: { point: readonly [number, number]; through: number[] }[] = [];
  for (const h of hits) {
    const same = out.find((m) => Math.hypot(m.point[0] - h.point[0], m.point[1] - h.point[1]) < NEAR_PX);
    if (same) same.through.push(h.through);
    else out.push({ point: h.point, through: [h.through] });
  }
  return out;
}
