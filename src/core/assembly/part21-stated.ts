import { stringOf, reference, references, type Graph } from './part21-graph.ts';
import type { Characteristic, Stated, StatedDatum, StatedSize, StatedTolerance } from './stated.ts';

/**
 * Semantic dimensions, tolerances and datums of ISO 10303-242 (parts 47, 101 and 1050 ff.; forms as the recommended practices
 * for product and manufacturing information have them, from memory). Faces are numbers of entities.
 * @param unitMm of the file, where a measure names none of its own
 */
export function readStated(graph: Graph, unitMm: number): Stated {
  const reader = new StatedReader(graph, unitMm);
  return { sizes: reader.sizes(), tolerances: reader.tolerances(), datums: reader.datums() };
}

const SIZE_KINDS: readonly (readonly [RegExp, StatedSize['kind']])[] = [
  [/diameter/i, 'diameter'],
  [/radius/i, 'radius'],
];

const CHARACTERISTICS: Readonly<Record<string, Characteristic>> = {
  STRAIGHTNESS_TOLERANCE: 'straightness',
  FLATNESS_TOLERANCE: 'flatness',
  ROUNDNESS_TOLERANCE: 'roundness',
  CYLINDRICITY_TOLERANCE: 'cylindricity',
  LINE_PROFILE_TOLERANCE: 'line-profile',
  SURFACE_PROFILE_TOLERANCE: 'surface-profile',
  PARALLELISM_TOLERANCE: 'parallelism',
  PERPENDICULARITY_TOLERANCE: 'perpendicularity',
  ANGULARITY_TOLERANCE: 'angularity',
  POSITION_TOLERANCE: 'position',
  COAXIALITY_TOLERANCE: 'coaxiality',
  CONCENTRICITY_TOLERANCE: 'coaxiality',
  SYMMETRY_TOLERANCE: 'symmetry',
  CIRCULAR_RUNOUT_TOLERANCE: 'run-out',
  TOTAL_RUNOUT_TOLERANCE: 'total-run-out',
};

const MM: Readonly<Record<string, number>> = { '.MILLI.': 1, '.CENTI.': 10, $: 1000, '.MICRO.': 1e-3 };

interface Measure {
  readonly name: string;
  /** mm or rad. */
  readonly value: number;
}

class StatedReader {
  private readonly graph: Graph;
  private readonly unitMm: number;
  /** Faces by the aspect that names them. */
  private readonly facesOf = new Map<number, number[]>();
  /** Aspects that an aspect is made of or derived from. */
  private readonly partsOf = new Map<number, number[]>();

  constructor(graph: Graph, unitMm: number) {
    [this.graph, this.unitMm] = [graph, unitMm];
    for (const type of ['GEOMETRIC_ITEM_SPECIFIC_USAGE', 'ITEM_IDENTIFIED_REPRESENTATION_USAGE'])
      for (const id of graph.all(type)) {
        const p = graph.params(id);
        push(this.facesOf, reference(p[2]), references(p[4]));
      }
    for (const type of ['SHAPE_ASPECT_RELATIONSHIP', 'SHAPE_ASPECT_DERIVING_RELATIONSHIP', 'SHAPE_ASPECT_ASSOCIATIVITY'])
      for (const id of graph.all(type)) {
        const p = graph.params(id);
        push(this.partsOf, reference(p[2]), [reference(p[3])]);
      }
  }

  private faces(aspect: number, deep = 0): number[] {
    const own = this.facesOf.get(aspect) ?? [];
    if (own.length || deep > 4) return own;
    return [...new Set((this.partsOf.get(aspect) ?? []).flatMap((a) => this.faces(a, deep + 1)))];
  }

  sizes(): StatedSize[] {
    const { graph } = this;
    const values = new Map<number, number>();
    for (const id of graph.all('DIMENSIONAL_CHARACTERISTIC_REPRESENTATION')) {
      const [dimension, representation] = graph.params(id).map(reference);
      values.set(dimension!, representation!);
    }
    const limits = new Map<number, number>();
    for (const id of graph.all('PLUS_MINUS_TOLERANCE')) {
      const [range, dimension] = graph.params(id).map(reference);
      limits.set(dimension!, range!);
    }
    const out: StatedSize[] = [];
    for (const [dimension, representation] of values) {
      const shape = this.shapeOf(dimension);
      const size = shape && this.valueOf(representation);
      if (!shape || !size || shape.on.some((f) => f.length === 0)) continue;
      const range = limits.get(dimension);
      out.push({ ...shape, ...size, ...(range === undefined ? {} : this.range(range)) });
    }
    return out;
  }

  /** What a dimension is of, and on which faces. */
  private shapeOf(id: number): Pick<StatedSize, 'kind' | 'on'> | undefined {
    const type = this.graph.type(id);
    const p = this.graph.params(id);
    if (type.startsWith('ANGULAR_SIZE')) return { kind: 'angle', on: [this.faces(reference(p[0]))] };
    if (type.startsWith('DIMENSIONAL_SIZE')) {
      const kind = SIZE_KINDS.find(([words]) => words.test(stringOf(p[1])))?.[1] ?? 'length';
      return { kind, on: [this.faces(reference(p[0]))] };
    }
    if (!/LOCATION/.test(type)) return undefined;
    return { kind: type.startsWith('ANGULAR') ? 'angle' : 'length', on: [this.faces(reference(p[2])), this.faces(reference(p[3]))] };
  }

  private valueOf(representation: number): Pick<StatedSize, 'value' | 'lower' | 'upper' | 'form'> | undefined {
    const items = references(this.graph.params(representation)[1]);
    const measures = items.flatMap((i) => this.measure(i) ?? []);
    const nominal = measures.find((m) => !/limit|bound/i.test(m.name));
    const at = (words: RegExp) => measures.find((m) => words.test(m.name))?.value;
    const [most, least] = [at(/upper/i), at(/lower/i)];
    const value = nominal?.value ?? (most !== undefined && least !== undefined ? (most + least) / 2 : undefined);
    if (value === undefined) return undefined;
    const words = items.map((i) => (this.graph.type(i) === 'DESCRIPTIVE_REPRESENTATION_ITEM' ? stringOf(this.graph.params(i)[1]) : '')).join(' ');
    const form = /theoretical|basic/i.test(words) ? 'basic' : /auxiliary|reference/i.test(words) ? 'reference' : undefined;
    return {
      value,
      ...(least === undefined ? {} : { lower: least - value }),
      ...(most === undefined ? {} : { upper: most - value }),
      ...(form ? { form } : {}),
    };
  }

  private range(id: number): Pick<StatedSize, 'lower' | 'upper' | 'fit'> {
    const p = this.graph.params(id);
    if (this.graph.type(id) === 'LIMITS_AND_FITS') {
      const [letter, , grade] = p.map(stringOf);
      const fit = `${letter}${/\d+/.exec(grade ?? '')?.[0] ?? ''}`;
      return /^[A-Za-z]{1,2}\d{1,2}$/.test(fit) ? { fit } : {};
    }
    const [lower, upper] = [this.measure(reference(p[0])), this.measure(reference(p[1]))];
    return lower && upper ? { lower: lower.value, upper: upper.value } : {};
  }

  /** A length or an angle, in whichever of the forms it is written. */
  private measure(id: number): Measure | undefined {
    const { graph } = this;
    const type = graph.type(id);
    const whole = graph.body(id);
    const value = /(?:LENGTH|ANGLE)_MEASURE\s*\(\s*([-+\d.Ee]+)\s*\)/.exec(whole)?.[1];
    if (value === undefined || !Number.isFinite(Number(value))) return undefined;
    // ( … MEASURE_WITH_UNIT(LENGTH_MEASURE(5.),#unit) … REPRESENTATION_ITEM('nominal value') )
    const name =
      type === '' ? stringOf(graph.paramsOf(id, 'REPRESENTATION_ITEM')[0]) : type === 'MEASURE_REPRESENTATION_ITEM' ? stringOf(graph.params(id)[0]) : '';
    const unit = references(type === '' ? graph.paramsOf(id, 'MEASURE_WITH_UNIT')[1] : graph.params(id).at(-1))[0];
    return { name, value: Number(value) * this.unit(unit ?? 0, /ANGLE_MEASURE/.test(whole)) };
  }

  private unit(id: number, angle: boolean): number {
    const body = this.graph.body(id);
    const named = /CONVERSION_BASED_UNIT\s*\(\s*'([^']*)'/.exec(body)?.[1]?.toLowerCase();
    if (angle) return named?.startsWith('deg') ? Math.PI / 180 : 1;
    if (named) return named.includes('in') ? 25.4 : named.includes('f') ? 304.8 : this.unitMm;
    return MM[/SI_UNIT\s*\(\s*(\$|\.\w+\.)\s*,\s*\.METRE\./.exec(body)?.[1] ?? ''] ?? this.unitMm;
  }

  tolerances(): StatedTolerance[] {
    const { graph } = this;
    const round = new Set<number>();
    for (const id of graph.all('TOLERANCE_ZONE')) {
      const p = graph.params(id);
      if (/cylind|circul|spher/i.test(stringOf(graph.params(reference(p[5]))[0]))) for (const t of references(p[4])) round.add(t);
    }
    const out: StatedTolerance[] = [];
    for (const [keyword, of] of Object.entries(CHARACTERISTICS))
      for (const id of graph.having(keyword)) {
        const simple = graph.type(id) !== '';
        const p = simple ? graph.params(id) : graph.paramsOf(id, 'GEOMETRIC_TOLERANCE');
        const zone = this.measure(reference(p[2]));
        const on = this.faces(reference(p[3]));
        if (!zone || on.length === 0) continue;
        const system = simple ? p[4] : graph.paramsOf(id, 'GEOMETRIC_TOLERANCE_WITH_DATUM_REFERENCE')[0];
        const words = graph.body(id);
        const modifier = /MAXIMUM_MATERIAL/.test(words) ? 'M' : /LEAST_MATERIAL/.test(words) ? 'L' : undefined;
        out.push({
          of,
          zoneMm: zone.value,
          ...(round.has(id) ? { round: true as const } : {}),
          ...(modifier ? { modifier } : {}),
          datums: references(system).flatMap((s) => this.datumLetters(s)),
          on,
        });
      }
    return out;
  }

  /** Letters of a datum system in order, or of one reference. */
  private datumLetters(id: number, deep = 0): string[] {
    const { graph } = this;
    const p = graph.params(id);
    if (deep > 4) return [];
    switch (graph.type(id)) {
      case 'DATUM':
      case 'COMMON_DATUM':
        return [stringOf(p[4])].filter(Boolean);
      case 'DATUM_REFERENCE':
        return this.datumLetters(reference(p[1]), deep + 1);
      case 'DATUM_SYSTEM':
        return references(p[4]).flatMap((c) => this.datumLetters(c, deep + 1));
      case 'DATUM_REFERENCE_COMPARTMENT': {
        // Several datums that count as one stand in one field.
        const letters = references(p[4]).flatMap((e) => this.datumLetters(e, deep + 1));
        return letters.length ? [letters.join('-')] : [];
      }
      case 'DATUM_REFERENCE_ELEMENT':
        return this.datumLetters(reference(p[4]), deep + 1);
      default:
        return [];
    }
  }

  datums(): StatedDatum[] {
    const { graph } = this;
    const out: StatedDatum[] = [];
    for (const [feature, made] of this.partsOf)
      for (const id of made) {
        const [letter] = graph.type(id) === 'DATUM' ? this.datumLetters(id) : [];
        const on = letter ? (this.facesOf.get(feature) ?? []) : [];
        if (letter && on.length && !out.some((d) => d.letter === letter)) out.push({ letter, on });
      }
    return out;
  }
}

function push<K>(map: Map<K, number[]>, key: K, more: readonly number[]): void {
  map.set(key, [...(map.get(key) ?? []), ...more]);
}
