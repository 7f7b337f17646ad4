/** Density, kg/m³. Values from memory of common tables (EN material standards and handbooks); good to about 1 %. */
const DENSITIES: readonly (readonly [RegExp, number])[] = [
  [/\b(S235|S275|S355|C45|C35|C15|42CrMo4|11SMn30|16MnCr5|DC01|E335|steel|stahl)/i, 7850],
  [/\b(1\.4301|1\.4305|304|A2)\b/i, 7900],
  [/\b(1\.4404|1\.4571|316L?|A4|stainless)/i, 7980],
  [/\b(1\.4310)\b/i, 7900],
  [/\b(EN ?AW-?6082|EN ?AW-?6060|EN ?AW-?5754|AW-?\d{4}|alumini?um|AlMg)/i, 2700],
  [/\b(CuZn\d*|brass|messing)/i, 8500],
  [/\b(CuSn\d*|bronze)/i, 8800],
  [/\b(PA ?6|polyamide|nylon)/i, 1140],
  [/\b(POM|acetal)/i, 1410],
  [/\b(PTFE)/i, 2200],
  [/\b(PE-?HD|PE|polyethylene)\b/i, 960],
  [/\b(NBR|EPDM|rubber)/i, 1200],
  [/\b(beech)/i, 720],
  [/\b(oak)/i, 750],
  [/\b(titanium|Ti6Al4V)/i, 4430],
  [/\b(EN-?GJL|cast iron)/i, 7200],
];

/** Density of a material by its designation, kg/m³; undefined when it is not in the table. */
export function densityOf(material: string): number | undefined {
  return DENSITIES.find(([pattern]) => pattern.test(material))?.[1];
}

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
