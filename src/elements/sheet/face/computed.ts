/** Fields of the title block that are computed, and from what. */
export const COMPUTED_FIELDS: Readonly<Record<string, string>> = {
  scale: 'Scale: that of most views on this sheet; others say theirs themselves.',
  size: 'Size: from the sheet.',
  sheet: 'Sheet n of m: counted.',
  mass: 'Mass: the sum over the ledger; “>” while some parts have none.',
  projection: 'Projection symbol: from the standard of the drawing.',
};
