export interface Material {
  /** As it is proposed. */
  readonly name: string;
  readonly densityKgM3: number;
  /** Where the density comes from. */
  readonly source: string;
}

const MEMORY = 'from memory of the standard and common tables, good to about 1 %';

/** Common materials, by EN number or trade name. */
export const MATERIALS: readonly Material[] = (
  [
    ['S235', 7850],
    ['S275', 7850],
    ['S355', 7850],
    ['C15', 7850],
    ['C35', 7850],
    ['C45', 7850],
    ['42CrMo4', 7850],
    ['16MnCr5', 7850],
    ['11SMn30', 7850],
    ['E335', 7850],
    ['DC01', 7850],
    ['Steel 8.8', 7850],
    ['Spring steel', 7850],
    ['1.4301', 7900],
    ['1.4305', 7900],
    ['1.4310', 7900],
    ['1.4404', 7980],
    ['1.4571', 7980],
    ['EN-GJL-250', 7200],
    ['EN-GJS-400', 7100],
    ['EN AW-1050', 2710],
    ['EN AW-2007', 2850],
    ['EN AW-5083', 2660],
    ['EN AW-5754', 2670],
    ['EN AW-6060', 2700],
    ['EN AW-6082', 2700],
    ['EN AW-7075', 2810],
    ['CuZn39Pb3 (brass)', 8470],
    ['CuSn8 (bronze)', 8800],
    ['Copper', 8940],
    ['Ti6Al4V', 4430],
    ['Zinc die casting', 6700],
    ['PA6', 1140],
    ['PA66', 1140],
    ['POM', 1410],
    ['PTFE', 2180],
    ['PE-HD', 960],
    ['PE-UHMW', 940],
    ['PP', 910],
    ['PVC', 1400],
    ['PC', 1200],
    ['PMMA', 1190],
    ['ABS', 1050],
    ['PEEK', 1320],
    ['NBR', 1200],
    ['EPDM', 1200],
    ['Silicone rubber', 1150],
    ['Glass', 2500],
    ['Beech', 720],
    ['Oak', 750],
    ['Pine', 520],
    ['Plywood, birch', 680],
    ['MDF', 750],
  ] as const
).map(([name, densityKgM3]) => ({ name, densityKgM3, source: MEMORY }));

/** Designations as files and people write them; the first that fits, so stainless steel stands before steel. */
const WRITTEN: readonly (readonly [RegExp, number])[] = [
  [/\b(1\.4404|1\.4571|316L?|A4)\b/i, 7980],
  [/\b(1\.4301|1\.4305|1\.4310|304|A2)\b|\b(stainless|edelstahl)/i, 7900],
  [/\b(S235|S275|S355|C45|C35|C15|42CrMo4|11SMn30|16MnCr5|DC01|E335)|(steel|stahl)/i, 7850],
  [/\b(EN ?AW-?6082|EN ?AW-?6060|EN ?AW-?5754|AW-?\d{4}|alumini?um|AlMg)/i, 2700],
  [/\b(CuZn\d*|brass|messing)/i, 8500],
  [/\b(CuSn\d*|bronze)/i, 8800],
  [/\b(PA ?6|polyamide|nylon)/i, 1140],
  [/\b(POM|acetal)/i, 1410],
  [/\b(PTFE)/i, 2180],
  [/\b(PE-?HD|PE|polyethylene)\b/i, 960],
  [/\b(NBR|EPDM|rubber)/i, 1200],
  [/\b(beech)/i, 720],
  [/\b(oak)/i, 750],
  [/\b(titanium|Ti6Al4V)/i, 4430],
  [/\b(EN-?GJL|cast iron)/i, 7200],
];

const plain = (s: string) => s.toLowerCase().replace(/[\s_-]+/g, '');

interface Weighed {
  readonly name: string;
  readonly densityKgM3: number;
}

/** Density of the one among some materials that has this name, kg/m³, whatever its case and blanks. */
export function densityAmong(material: string, among: readonly Weighed[]): number | undefined {
  const name = plain(material);
  return name === '' ? undefined : among.find((m) => plain(m.name) === name)?.densityKgM3;
}

/** Density of a material by its designation, kg/m³: the exact name, else what it reads like; undefined when nothing fits. */
export const densityOf = (material: string): number | undefined =>
  densityAmong(material, MATERIALS) ?? WRITTEN.find(([pattern]) => pattern.test(material))?.[1];

/** What a section shows a material as. */
export type MaterialFamily = 'metal' | 'plastic' | 'wood' | 'glass';

const FAMILIES: readonly (readonly [RegExp, MaterialFamily])[] = [
  [/\b(PA ?\d+|POM|PTFE|PEEK|PE(-?[HL]D)?|PP|PVC|PC|PMMA|ABS|PU|FKM|NBR|EPDM|polyamide|polyethylene|acetal|nylon|rubber|plastic|silicone)\b/i, 'plastic'],
  [/\b(beech|oak|pine|spruce|birch|ash|plywood|MDF|wood|timber)\b/i, 'wood'],
  [/\b(glass|quartz)\b/i, 'glass'],
];

/** Family of a material by its designation; what is not known is hatched like metal, the general pattern of ISO 128-50. */
export function familyOf(material: string): MaterialFamily {
  return FAMILIES.find(([pattern]) => pattern.test(material))?.[1] ?? 'metal';
}
