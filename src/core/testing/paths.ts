/** Points along an SVG path, one polyline per subpath, `per` points a curve. Arcs by the conversion of SVG 2, appendix B.2.4. */
export function pointsOfPath(d: string, per = 16): [number, number][][] {
  const out: [number, number][][] = [];
  let at: [number, number] = [0, 0];
  for (const [, op, text] of d.matchAll(/([MLHVhvACZ])([^MLHVhvACZ]*)/g)) {
    const n = (text!.match(/-?[\d.]+(?:e-?\d+)?/gi) ?? []).map(Number);
    const put = (p: [number, number]) => out[out.length - 1]!.push((at = p));
    switch (op) {
      case 'M':
        out.push([]);
        put([n[0]!, n[1]!]);
        for (let i = 2; i < n.length; i += 2) put([n[i]!, n[i + 1]!]);
        break;
      case 'L':
        for (let i = 0; i < n.length; i += 2) put([n[i]!, n[i + 1]!]);
        break;
      case 'h':
        put([at[0] + n[0]!, at[1]]);
        break;
      case 'v':
        put([at[0], at[1] + n[0]!]);
        break;
      case 'A':
        for (const p of arcPoints(at, n, per)) put(p);
        break;
      case 'Z':
        put(out[out.length - 1]![0]!);
        break;
      default:
        throw new Error(`${op} is not expected in a path`);
    }
  }
  return out;
}

function arcPoints([x1, y1]: readonly [number, number], n: readonly number[], per: number): [number, number][] {
  const [rx0, ry0, degrees, large, sweep, x2, y2] = n as [number, number, number, number, number, number, number];
  const phi = (degrees * Math.PI) / 180;
  const [c, s] = [Math.cos(phi), Math.sin(phi)];
  const [dx, dy] = [(x1 - x2) / 2, (y1 - y2) / 2];
  const [x, y] = [c * dx + s * dy, -s * dx + c * dy];
  const grow = Math.max(1, Math.sqrt((x / rx0) ** 2 + (y / ry0) ** 2));
  const [rx, ry] = [rx0 * grow, ry0 * grow];
  const root = Math.sqrt(Math.max(0, rx * rx * ry * ry - rx * rx * y * y - ry * ry * x * x) / (rx * rx * y * y + ry * ry * x * x)) * (large === sweep ? -1 : 1);
  const [cx, cy] = [(root * rx * y) / ry, (-root * ry * x) / rx];
  const from = Math.atan2((y - cy) / ry, (x - cx) / rx);
  let turn = Math.atan2((-y - cy) / ry, (-x - cx) / rx) - from;
  if (sweep && turn < 0) turn += 2 * Math.PI;
  if (!sweep && turn > 0) turn -= 2 * Math.PI;
  const [mx, my] = [(x1 + x2) / 2 + c * cx - s * cy, (y1 + y2) / 2 + s * cx + c * cy];
  return Array.from({ length: per }, (_, i): [number, number] => {
    const t = from + (turn * (i + 1)) / per;
    const [u, v] = [rx * Math.cos(t), ry * Math.sin(t)];
    return [mx + c * u - s * v, my + s * u + c * v];
  });
}
