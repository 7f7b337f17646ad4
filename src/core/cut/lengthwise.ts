import type { Role } from '../assembly/role.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import type { Plane } from './plane-cut.ts';

/** A component as a body turned about an axis; model space, mm. */
export interface TurnedShape {
  readonly point: Vec3;
  readonly axis: Vec3;
  /** Of its widest cylinder or cone about the axis. */
  readonly radiusMm: number;
  /** Along the axis. */
  readonly lengthMm: number;
  /** Share of its surface that is turned about the axis, 0…1. */
  readonly share: number;
  /** How much of its length a hole along the axis takes, 0…1. */
  readonly bored: number;
}

/** What decides whether a component stays whole in a section. */
export interface InSection {
  readonly name: string;
  readonly role: Role | undefined;
  /** Undefined where nothing round was recognised. */
  readonly turned: TurnedShape | undefined;
  /** Its longest way, a unit vector in model space, where it is clearly longer than wide: stands for an axis that was not recognised. */
  readonly longest: Vec3 | undefined;
  /** Share of its surface that is a sphere's, 0…1. */
  readonly sphere: number;
  /** A thin flat part without holes that the plane runs along: `slanted` when its outline is no rectangle, as a gusset's is not. */
  readonly webAlong: 'square' | 'slanted' | undefined;
}

/** The plane runs through a shaft's axis when it is nearer to it than this share of its radius. */
const NEAR_AXIS = 0.5;
/** A shaft is longer than this, in its diameters: a shorter round part is a disc, a cover, a plug. */
const SHAFT_LENGTH = 1.2;
/** A round part is turned when this share of its surface is. */
const TURNED_SHARE = 0.75;
/** Bored along more of its length than this it is cut, so that the bore shows. */
const HOLLOW = 0.5;
/** A part with this share of a sphere's surface is a ball; … */
const BALL = 0.6;
/** … and this much makes one of what is called otherwise. */
const WHOLE_BALL = 0.98;
/** A nut is no higher than this, in its widths: what is longer is a threaded bush or block. */
const NUT_HEIGHT = 0.9;

/**
 * Does a component stay whole where a section's plane meets it? ISO 128-50 (from memory): fasteners, shafts, keys, pins, balls,
 * rollers, handles and ribs are not cut lengthwise; cut across their axis they are hatched like anything else; plates,
 * housings, blocks, bushes, glands and seals always are.
 * @returns why it stays whole, undefined where it is cut
 */
export function staysWhole({ name, role, turned, longest, sphere, webAlong }: InSection, plane: Plane): string | undefined {
  if (sphere > (role === 'body' ? WHOLE_BALL : BALL)) return 'A ball: its section would look like a disc.';
  const axis = turned?.axis ?? longest;
  const across = axis !== undefined && Math.abs(dot(axis, plane.normal)) > 0.5;
  const throughAxis =
    turned !== undefined &&
    Math.abs(dot(turned.axis, plane.normal)) < 1e-3 &&
    Math.abs(dot(turned.point, plane.normal) - plane.d) < NEAR_AXIS * turned.radiusMm;
  switch (role) {
    case 'body':
      return undefined;
    case 'nut':
      if (turned && turned.lengthMm > NUT_HEIGHT * 2 * turned.radiusMm) return undefined;
      return across ? undefined : `“${name}” is a fastener, cut along its axis.`;
    case 'screw':
    case 'washer':
    case 'rivet':
    case 'circlip':
      return across ? undefined : `“${name}” is a fastener, cut along its axis.`;
    case 'key':
    case 'pin':
      return across ? undefined : `“${name}” is a ${role}, cut along its length.`;
    case 'rib':
      return webAlong ? 'A rib that the cut runs along: sectioned it would look solid.' : undefined;
    case 'shaft':
    case 'roller':
    case 'handle':
      if (turned) return throughAxis && turned.bored < HOLLOW ? `“${name}” is a ${role} whose axis lies in the cut.` : undefined;
      return across || !longest ? undefined : `“${name}” is a ${role}, cut along its length.`;
    case 'ball':
      return undefined;
    case undefined: {
      if (webAlong === 'slanted') return 'A rib that the cut runs along: sectioned it would look solid.';
      const solid = turned && turned.share > TURNED_SHARE && turned.bored === 0 && turned.lengthMm > SHAFT_LENGTH * 2 * turned.radiusMm;
      return solid && throughAxis ? 'A solid turned part whose axis lies in the cut.' : undefined;
    }
  }
}
