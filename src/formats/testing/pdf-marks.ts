import { inflateSync } from 'node:zlib';

type Matrix = readonly [number, number, number, number, number, number];

/** A stroke, fill or picture as it lies on the page: mm from the top left corner, y down. */
export interface PdfMark {
  readonly kind: 'stroke' | 'fill' | 'image';
  /** mm */
  readonly width: number;
  /** mm; empty: solid. */
  readonly dash: readonly number[];
  /** Points of each subpath; curves at sixteen places. Of a picture its corners: lower left, lower right, upper right, upper left. */
  readonly paths: readonly (readonly (readonly [number, number])[])[];
}

const MM = 25.4 / 72;

/** What the content streams of a PDF draw, page by page: read from the operators of ISO 32000-1, 8.4 and 8.5. */
export function pdfMarks(bytes: Uint8Array): PdfMark[][] {
  const text = Buffer.from(bytes).toString('latin1');
  const pages: PdfMark[][] = [];
  for (const m of text.matchAll(/<<(?:(?!endobj)[\s\S])*?>>\s*stream\r?\n/g)) {
    const start = m.index + m[0].length;
    const raw = Buffer.from(bytes).subarray(start, text.indexOf('endstream', start));
    if (!/FlateDecode/.test(m[0]) || /Subtype|Length1|FontFile/.test(m[0])) continue;
    let content: string;
    try {
      content = inflateSync(raw).toString('latin1');
    } catch {
      continue;
    }
    if (/\scm\s/.test(content)) pages.push(marksIn(content, heightOf(text, pages.length)));
  }
  return pages;
}

function heightOf(text: string, page: number): number {
  const boxes = [...text.matchAll(/\/MediaBox\s*\[\s*[\d.]+\s+[\d.]+\s+[\d.]+\s+([\d.]+)\s*\]/g)];
  return Number(boxes[page]?.[1]) * MM;
}

function marksIn(content: string, height: number): PdfMark[] {
  const marks: PdfMark[] = [];
  const stack: { m: Matrix; width: number; dash: number[] }[] = [];
  let state = { m: [1, 0, 0, 1, 0, 0] as Matrix, width: 1, dash: [] as number[] };
  let paths: [number, number][][] = [];
  let at: [number, number] = [0, 0];
  const page = ([x, y]: readonly [number, number]): [number, number] => {
    const [a, b, c, d, e, f] = state.m;
    return [(a * x + c * y + e) * MM, height - (b * x + d * y + f) * MM];
  };
  const scale = () => Math.sqrt(Math.abs(state.m[0] * state.m[3] - state.m[1] * state.m[2])) * MM;
  const done = (kind: PdfMark['kind']) => {
    marks.push({ kind, width: state.width * scale(), dash: state.dash.map((v) => v * scale()), paths });
    paths = [];
  };
  const operands: number[] = [];
  let list: number[] = [];
  let open = false;
  for (const token of content.replace(/\((?:\\.|[^\\)])*\)|<[0-9A-Fa-f]*>/g, ' ').match(/\[|\]|[^\s[\]]+/g) ?? []) {
    if (token === '[') [list, open] = [[], true];
    else if (token === ']') open = false;
    else if (/^[-+.\d]/.test(token)) (open ? list : operands).push(Number(token));
    else {
      const n = operands.splice(0);
      switch (token) {
        case 'q':
          stack.push({ ...state });
          break;
        case 'Q':
          state = stack.pop()!;
          break;
        case 'cm': {
          const [a, b, c, d, e, f] = n as unknown as Matrix;
          const [p, q, r, s, t, u] = state.m;
          state = { ...state, m: [a * p + b * r, a * q + b * s, c * p + d * r, c * q + d * s, e * p + f * r + t, e * q + f * s + u] };
          break;
        }
        case 'w':
          state = { ...state, width: n[0]! };
          break;
        case 'd':
          state = { ...state, dash: list.slice() };
          break;
        case 'm':
          paths.push([page((at = [n[0]!, n[1]!]))]);
          break;
        case 'l':
          paths[paths.length - 1]!.push(page((at = [n[0]!, n[1]!])));
          break;
        case 'c':
          for (let i = 1; i <= 16; i++) {
            const t = i / 16;
            const [u, v] = [1 - t, t];
            const b = (p0: number, p1: number, p2: number, p3: number) => u * u * u * p0 + 3 * u * u * v * p1 + 3 * u * v * v * p2 + v * v * v * p3;
            paths[paths.length - 1]!.push(page([b(at[0], n[0]!, n[2]!, n[4]!), b(at[1], n[1]!, n[3]!, n[5]!)]));
          }
          at = [n[4]!, n[5]!];
          break;
        case 'h':
          paths[paths.length - 1]!.push(paths[paths.length - 1]![0]!);
          break;
        case 'S':
          done('stroke');
          break;
        case 'f':
        case 'f*':
          done('fill');
          break;
        case 'n':
          paths = [];
          break;
        case 'Do':
          paths = [
            (
              [
                [0, 0],
                [1, 0],
                [1, 1],
                [0, 1],
              ] as const
            ).map(page),
          ];
          done('image');
          break;
      }
    }
  }
  return marks;
}
