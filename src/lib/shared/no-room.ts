/** What is said where something new finds no free room on its sheet. */
export const noRoomFor = (what: string): string =>
  `There is no free room for ${what} on this sheet: it covers something now. Arrange the sheet (E), move it, or take a larger sheet.`;
