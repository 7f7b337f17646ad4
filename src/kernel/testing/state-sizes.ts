/** The faces of a Part 21 text that lie on a surface of a kind, by entity number, with its parameters. */
export function facesOn(text: string, surface: 'CYLINDRICAL_SURFACE' | 'PLANE'): { readonly face: number; readonly values: string }[] {
  const one = text.replace(/\r?\n\s*/g, '');
  return [...one.matchAll(/#(\d+)\s*=\s*ADVANCED_FACE\([^;]*?,#(\d+),\.[TF]\.\);/g)].flatMap(([, face, on]) => {
    const s = new RegExp(`#${on}\\s*=\\s*${surface}\\(([^;]*)\\);`).exec(one);
    return s ? [{ face: Number(face), values: s[1]! }] : [];
  });
}

/** Where a plane lies: its point and its normal as the text has them. */
export function planeAt(text: string, values: string): { readonly at: number[]; readonly normal: number[] } {
  const one = text.replace(/\r?\n\s*/g, '');
  const body = (id: string) => new RegExp(`#${id}\\s*=\\s*\\w+\\(([^;]*)\\);`).exec(one)![1]!;
  const [point, axis] = [...body(/#(\d+)/.exec(values)![1]!).matchAll(/#(\d+)/g)].map((m) => body(m[1]!));
  const numbers = (s: string) => [...s.matchAll(/-?\d+\.?\d*(?:E[-+]?\d+)?/g)].map((m) => Number(m[0])).slice(-3);
  return { at: numbers(point!.replace(/^'[^']*'/, '')), normal: numbers(axis!.replace(/^'[^']*'/, '')) };
}

/** The text with more entities at its end; numbers in them that are letters are new ones. @param lines such as `a=DATUM('','',$,.F.,'A')` */
export function withEntities(text: string, lines: readonly string[]): string {
  const most = Math.max(...[...text.matchAll(/^#(\d+)\s*=/gm)].map((m) => Number(m[1])));
  const numbers = new Map<string, number>();
  const numberOf = (name: string) => {
    if (!numbers.has(name)) numbers.set(name, most + 10 + numbers.size);
    return `#${numbers.get(name)}`;
  };
  const more = lines.map((l) => {
    const [, name, rest] = /^(\w+)=(.*)$/.exec(l)!;
    return `${numberOf(name!)}=${rest!.replace(/@(\w+)/g, (_, n: string) => numberOf(n))};`;
  });
  const end = text.lastIndexOf('ENDSEC;');
  return `${text.slice(0, end)}${more.join('\n')}\n${text.slice(end)}`.replace(
    /FILE_SCHEMA\s*\([^;]*\);/,
    "FILE_SCHEMA (('AP242_MANAGED_MODEL_BASED_3D_ENGINEERING_MIM_LF'));",
  );
}
