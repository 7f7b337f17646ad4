/**
 * What a component does in a machine, as far as its name and the shape of a standard part say. All rules that ask “is it a
 * fastener, a shaft, a body?” ask here: sections, exploded views, threads, dimensions.
 */
export type Role = 'screw' | 'nut' | 'washer' | 'pin' | 'key' | 'rivet' | 'circlip' | 'shaft' | 'ball' | 'roller' | 'handle' | 'rib' | 'body';

interface Named {
  readonly name: string;
}
interface Shaped {
  readonly looksLike?: string | undefined;
}

/** Head nouns of the trade, English and German. Common practice, no source. */
const NOUNS: readonly (readonly [Role, readonly string[]])[] = [
  ['screw', ['screw', 'bolt', 'stud', 'setscrew', 'grubscrew', 'capscrew', 'schraube', 'gewindestift', 'gewindestange']],
  ['nut', ['nut', 'locknut', 'wingnut', 'mutter']],
  ['washer', ['washer', 'scheibe']],
  ['pin', ['pin', 'dowel', 'cotter', 'stift', 'bolzen', 'splint', 'clevispin']],
  ['key', ['key', 'passfeder', 'keil']],
  ['rivet', ['rivet', 'niet']],
  ['circlip', ['circlip', 'clip', 'sicherungsring', 'sprengring', 'seegerring']],
  ['shaft', ['shaft', 'axle', 'spindle', 'rod', 'arbor', 'arbour', 'mandrel', 'leadscrew', 'camshaft', 'countershaft', 'welle', 'achse', 'spindel', 'stange']],
  ['ball', ['ball', 'kugel']],
  ['roller', ['roller', 'needle', 'rolle']],
  ['handle', ['handle', 'handgrip', 'griff']],
  ['rib', ['rib', 'gusset', 'stiffener', 'web', 'spoke', 'rippe', 'steg', 'knotenblech']],
  [
    'body',
    // prettier-ignore
    [
      'plate', 'housing', 'block', 'bush', 'bushing', 'bearing', 'cover', 'frame', 'flange', 'wheel', 'pulley', 'gear', 'gearwheel', 'pinion', 'drum', 'hub',
      'sleeve', 'gland', 'seal', 'packing', 'gasket', 'bonnet', 'bracket', 'base', 'cap', 'lid', 'cylinder', 'piston', 'body', 'casing', 'case', 'valve', 'seat',
      'ring', 'collar', 'tube', 'pipe', 'coupling', 'yoke', 'fork', 'clevis', 'arm', 'lever', 'crank', 'carrier', 'holder', 'guide', 'support', 'stand', 'column',
      'jaw', 'vice', 'vise', 'clamp', 'plug', 'insert', 'spring', 'disc', 'disk', 'sheave', 'sprocket', 'box', 'sheet', 'panel', 'beam', 'channel', 'angle',
      'profile', 'rail', 'slide', 'carriage', 'table', 'bed', 'head', 'jack', 'rotor', 'stator', 'impeller', 'gehause', 'gehäuse', 'platte', 'deckel', 'buchse',
      'lager', 'rohr', 'nabe', 'rad', 'flansch', 'dichtung', 'feder', 'blech', 'winkel', 'halter', 'bock', 'hebel', 'hülse', 'mutterblock',
    ],
  ],
];

const ROLE_OF_NOUN = new Map(NOUNS.flatMap(([role, words]) => words.map((w) => [w, role] as const)));
/** Words that end German compounds: Sechskantschraube, Unterlegscheibe, Zylinderstift. Longest first. */
// prettier-ignore
const ENDINGS = [
  'schraube', 'mutter', 'scheibe', 'stift', 'bolzen', 'niet', 'sicherungsring', 'feder', 'passfeder', 'welle', 'achse', 'spindel', 'stange', 'kugel', 'rolle', 'griff',
  'rippe', 'platte', 'deckel', 'buchse', 'lager', 'rohr', 'nabe', 'flansch', 'dichtung', 'blech', 'knotenblech', 'halter', 'bock', 'hebel', 'hülse', 'gehäuse', 'gehause',
].sort((a, b) => b.length - a.length);

/** A nut that guides, carries or seals is a body that a section cuts: it turns on a thread, but it clamps nothing. */
const NUT_AS_BODY =
  /^(spindle|gland|packing|union|lead|leadscrew|ball|feed|screw|trapezoidal|travelling|traveling|travel|drive|coupling|jack|swivel|bearing|insert|press|rivet|spindel|überwurf)$/;
/** What makes a ring one that is sprung into a groove. */
const SPRUNG = /^(retaining|snap|lock|locking|spring|split|seeger|grip)$/;
/** Rods that are bodies with eyes, and what is threaded from end to end. */
const ROD_AS_BODY = /^(connecting|con|conrod)$/;
const THREADED_ROD = /^(threaded|screwed)$/;
/** What the shapes of standard parts are. */
const SHAPES: Readonly<Record<string, Role>> = {
  'hex bolt': 'screw',
  nut: 'nut',
  washer: 'washer',
  circlip: 'circlip',
  pin: 'pin',
  'bearing ring': 'body',
};

/** Words of a name, in lower case; what has digits says sizes and numbers, not what it is. */
function wordsOf(text: string): string[] {
  return text
    .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((w) => w && !/\p{N}/u.test(w));
}

function nounOf(word: string): Role | undefined {
  for (const w of [word, word.replace(/(es|s)$/, ''), word.replace(/s$/, '')]) {
    const role = ROLE_OF_NOUN.get(w);
    if (role) return role;
  }
  const ending = ENDINGS.find((e) => word.endsWith(e));
  return ending === undefined ? undefined : ROLE_OF_NOUN.get(ending);
}

/** What the head noun of a phrase says: “bolt plate” is a plate, “cover bolt” a bolt. */
function roleOfPhrase(words: readonly string[]): Role | undefined {
  const at = words.findLastIndex((w) => nounOf(w));
  if (at < 0) return undefined;
  const role = nounOf(words[at]!)!;
  const before = words.slice(0, at);
  const has = (re: RegExp) => before.some((w) => re.test(w));
  if (role === 'nut') return has(NUT_AS_BODY) ? 'body' : 'nut';
  if (role === 'body' && /^rings?$/.test(words[at]!)) return has(SPRUNG) ? 'circlip' : 'body';
  if (role === 'shaft' && /^rods?$/.test(words[at]!)) return has(ROD_AS_BODY) ? 'body' : has(THREADED_ROD) ? 'screw' : 'shaft';
  // A lead screw moves a slide: it is a shaft.
  if (role === 'screw' && has(/^(lead|feed|ball|jack|drive)$/)) return 'shaft';
  return role;
}

/** What a name says that a component is: “Hex head bolt M8 × 25”, “Nut, hexagon”, “Spindle nut”. @returns undefined where it says nothing */
export function roleByName(name: string): Role | undefined {
  // “Washer for bolt”, “Nut (M8, for shaft)”, “Pin, sheave”: what comes first is what it is.
  const [head = ''] = name.split(/[,;(]|\s(?:for|of|with|to|für)\s/i);
  return roleOfPhrase(wordsOf(head)) ?? roleOfPhrase(wordsOf(name));
}

/** What a component is: by its own name, its part's name, or its shape where names say nothing. */
export function roleOf(component: Named, part: Named & Shaped): Role | undefined {
  return roleByName(part.name) ?? roleByName(component.name) ?? SHAPES[part.looksLike ?? ''];
}

const FASTENERS: ReadonlySet<Role | undefined> = new Set(['screw', 'nut', 'washer', 'pin', 'key', 'rivet', 'circlip']);

/** Holds other parts together: it comes off first. */
export const isFastener = (component: Named, part: Named & Shaped): boolean => FASTENERS.has(roleOf(component, part));

/** Holds others together and carries nothing: a pin may as well carry a wheel. */
export const isHolding = (component: Named, part: Named & Shaped): boolean => {
  const role = roleOf(component, part);
  return FASTENERS.has(role) && (role !== 'pin' || /\b(split|cotter|splint)\b/i.test(`${component.name} ${part.name}`));
};

/** Words of what has a thread, as a screw, in a nut that guides, or along a rod. */
const THREADED = /\b(nut|bolt|screw|stud|rod|thread|threaded|screwed|spindle|gewinde)\b|mutter|schraube|bolzen/i;

/** May have a thread, modelled at its full diameter or with flanks. */
export function isThreaded(component: Named, part: Named & Shaped): boolean {
  const role = roleOf(component, part);
  // Nuts that guide or seal are bodies, and screwed all the same.
  return role === 'screw' || role === 'nut' || THREADED.test(`${component.name} ${part.name}`.replaceAll('_', ' ')) || /nut|bolt/.test(part.looksLike ?? '');
}
