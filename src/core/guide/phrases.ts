/** What a guide says in each language; `{what}` is a list of parts, `{from}` a side, `{name}` a sub-assembly. */
interface Phrases {
  readonly language: string;
  readonly start: string;
  readonly startHeld: string;
  readonly add: string;
  readonly fasten: string;
  readonly join: string;
  /** From which side something comes, with a blank before it. */
  readonly from: Readonly<Record<Side, string>>;
  readonly and: string;
  readonly take: string;
  readonly check: string;
  readonly step: string;
  readonly of: string;
  readonly wrench: string;
  readonly hexKey: string;
  readonly pliers: string;
  readonly heavy: string;
  readonly checked: string;
  readonly unchecked: string;
  readonly done: string;
  readonly back: string;
  readonly remark: string;
  readonly turn: string;
  readonly play: string;
  readonly kit: string;
  /** Heads of the kit list: item, quantity, picture, description, number, place, tool, mass. */
  readonly kitHeads: readonly [string, string, string, string, string, string, string, string];
  readonly contents: string;
  /** Which part a remark is about, and none. */
  readonly part: string;
  readonly name: string;
  readonly serial: string;
  readonly stop: string;
}

export type Side = 'above' | 'below' | 'left' | 'right' | 'front' | 'behind' | 'none';

export const PHRASES = {
  en: {
    language: 'English',
    start: 'Begin with {what}.',
    startHeld: 'Begin with {what}, which come as one.',
    add: 'Put on {what}{from}.',
    fasten: 'Fasten with {what}{from}.',
    join: 'Put {name} in place{from}.',
    from: {
      above: ' from above',
      below: ' from below',
      left: ' from the left',
      right: ' from the right',
      front: ' from the front',
      behind: ' from behind',
      none: '',
    },
    and: 'and',
    take: 'Take',
    check: 'Check',
    step: 'Step',
    of: 'of',
    wrench: 'wrench',
    hexKey: 'hex key',
    pliers: 'circlip pliers',
    heavy: '{kg} kg: lift it with two, or a hoist.',
    checked: 'Order checked: nothing has to pass through anything.',
    unchecked: 'The order was changed and is not checked.',
    done: 'Done',
    back: 'Back',
    remark: 'Remark',
    turn: 'Turn it',
    play: 'Play',
    kit: 'Kit list',
    kitHeads: ['Item', 'Quantity', 'Picture', 'Description', 'Number', 'Place', 'Tool', 'Mass each'],
    contents: 'Steps',
    part: 'Part (or the whole step)',
    name: 'Name',
    serial: 'Serial number',
    stop: 'Picture',
  },
  de: {
    language: 'Deutsch',
    start: 'Mit {what} beginnen.',
    startHeld: 'Mit {what} beginnen (zusammen geliefert).',
    add: '{what}{from} aufsetzen.',
    fasten: 'Mit {what}{from} befestigen.',
    join: '{name}{from} einsetzen.',
    from: { above: ' von oben', below: ' von unten', left: ' von links', right: ' von rechts', front: ' von vorn', behind: ' von hinten', none: '' },
    and: 'und',
    take: 'Nehmen',
    check: 'Prüfen',
    step: 'Schritt',
    of: 'von',
    wrench: 'Schlüssel',
    hexKey: 'Innensechskant',
    pliers: 'Sicherungsringzange',
    heavy: '{kg} kg: zu zweit oder mit Hebezeug heben.',
    checked: 'Reihenfolge geprüft: nichts muss durch etwas hindurch.',
    unchecked: 'Die Reihenfolge wurde geändert und ist nicht geprüft.',
    done: 'Fertig',
    back: 'Zurück',
    remark: 'Bemerkung',
    turn: 'Drehen',
    play: 'Abspielen',
    kit: 'Teileliste',
    kitHeads: ['Pos.', 'Menge', 'Bild', 'Benennung', 'Nummer', 'Platz', 'Werkzeug', 'Masse je Stück'],
    contents: 'Schritte',
    part: 'Teil (oder der ganze Schritt)',
    name: 'Name',
    serial: 'Seriennummer',
    stop: 'Bild',
  },
  fr: {
    language: 'Français',
    start: 'Commencer par {what}.',
    startHeld: 'Commencer par {what}, livrés ensemble.',
    add: 'Poser {what}{from}.',
    fasten: 'Fixer avec {what}{from}.',
    join: 'Mettre en place {name}{from}.',
    from: {
      above: ' par le haut',
      below: ' par le bas',
      left: ' par la gauche',
      right: ' par la droite',
      front: ' par l’avant',
      behind: ' par l’arrière',
      none: '',
    },
    and: 'et',
    take: 'Prendre',
    check: 'Vérifier',
    step: 'Étape',
    of: 'sur',
    wrench: 'clé',
    hexKey: 'clé six pans',
    pliers: 'pince à circlips',
    heavy: '{kg} kg : lever à deux ou avec un palan.',
    checked: 'Ordre vérifié : rien ne doit traverser autre chose.',
    unchecked: 'L’ordre a été modifié et n’est pas vérifié.',
    done: 'Fait',
    back: 'Retour',
    remark: 'Remarque',
    turn: 'Tourner',
    play: 'Lire',
    kit: 'Liste des pièces',
    kitHeads: ['Repère', 'Nombre', 'Image', 'Désignation', 'Numéro', 'Emplacement', 'Outil', 'Masse unitaire'],
    contents: 'Étapes',
    part: 'Pièce (ou toute l’étape)',
    name: 'Nom',
    serial: 'Numéro de série',
    stop: 'Image',
  },
} as const satisfies Readonly<Record<string, Phrases>>;

export type Language = keyof typeof PHRASES;
export const LANGUAGES = Object.keys(PHRASES) as Language[];
export const isLanguage = (text: string): text is Language => Object.hasOwn(PHRASES, text);

/** A phrase with its places filled in. */
export const say = (phrase: string, words: Readonly<Record<string, string>>): string => phrase.replace(/\{(\w+)\}/g, (_, key: string) => words[key] ?? '');

/** `a`, `a and b`, `a, b and c`. */
export const listed = (words: readonly string[], and: string): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} ${and} ${words.at(-1)!}`;
