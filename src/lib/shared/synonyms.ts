/**
 * Words of the trade that mean the same; people ask for a thing by the word of their own shop (common practice, no source). Each row
 * begins with the word that commands and labels use.
 */
const ROWS: readonly (readonly string[])[] = [
  ['rectangle', 'box', 'frame'],
  ['parts list', 'bom', 'bill of materials', 'item list', 'material list', 'cutting list'],
  ['jog', 'dogleg', 'joggle', 'offset'],
  ['balloon', 'item number', 'bubble', 'callout', 'item reference'],
  ['identify', 'balloon', 'number'],
  ['section', 'cut', 'cross-section', 'sectional view'],
  ['cutting line', 'section line', 'cutting plane'],
  ['broken-out', 'breakout', 'local section', 'partial section'],
  ['interrupt', 'break', 'shorten', 'broken view'],
  ['exploded', 'explosion', 'pulled apart', 'blow-up', 'spread'],
  ['detail', 'enlarged', 'magnified', 'zoom'],
  ['dimension', 'size', 'measure', 'measurement'],
  ['thread', 'screw', 'tap', 'tapped'],
  ['hole', 'bore', 'drill'],
  ['centre', 'center', 'axis', 'axes'],
  ['centre mark', 'cross', 'center mark'],
  ['note', 'text', 'remark', 'annotation', 'leader'],
  ['table', 'grid', 'chart'],
  ['title block', 'stamp', 'title', 'name plate'],
  ['sheet format', 'border', 'template', 'frame', 'drawing frame'],
  ['revision', 'change', 'issue', 'rev'],
  ['revision cloud', 'cloud', 'markup'],
  ['hidden', 'dashed', 'invisible'],
  ['tangent', 'soft edges', 'blend'],
  ['shaded', 'rendered', 'coloured', 'colored'],
  ['hatch', 'crosshatch', 'section lining'],
  ['remove', 'delete', 'erase'],
  ['duplicate', 'copy', 'clone'],
  ['undo', 'back', 'revert'],
  ['fit', 'zoom all', 'whole sheet'],
  ['place a view', 'new view', 'add view', 'insert view'],
  ['project', 'neighbour', 'projected view', 'unfold'],
  ['align', 'line up'],
  ['arrange', 'tidy', 'lay out', 'clean up'],
  ['weld', 'welding'],
  ['surface', 'roughness', 'finish', 'texture'],
  ['tolerance', 'gd&t', 'gps', 'fit', 'limits'],
  ['datum', 'reference'],
  ['pdf', 'print', 'plot'],
  ['csv', 'spreadsheet', 'excel', 'export'],
  ['recipe', 'template', 'standard set'],
  ['flat pattern', 'development', 'unfolded', 'blank'],
  ['mass', 'weight'],
  ['material', 'stock', 'grade'],
  ['isometric', 'pictorial', '3d', 'axonometric'],
];

/** A text with the other words that people use for what it speaks of, in lower case. */
export function withSynonyms(text: string): string {
  const lower = text.toLowerCase();
  return [lower, ...ROWS.flatMap(([word, ...others]) => (lower.includes(word!) ? others : []))].join(' ');
}
