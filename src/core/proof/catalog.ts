import type { FindingCode } from './finding.ts';

interface Entry {
  /** What is checked, as a point of a checker’s list. */
  readonly title: string;
  /** The standard it rests on, or common practice. */
  readonly basis: string;
}

const PRACTICE = 'common practice';

/** All points of the proof in the order in which a checker goes through them. Clauses of standards from memory. */
export const CATALOG: Readonly<Record<FindingCode, Entry>> = {
  BENCH_REMARK: { title: 'Remarks from the bench are answered', basis: PRACTICE },
  SEEN_NOWHERE: { title: 'Every item can be seen in a view', basis: PRACTICE },
  SEEN_BADLY: { title: 'Every item is large enough somewhere', basis: PRACTICE },
  NOT_IDENTIFIED: { title: 'Every item has a balloon', basis: 'ISO 6433' },
  IDENTIFIED_TWICE: { title: 'An item has one balloon in a view', basis: 'ISO 6433' },
  NO_LIST: { title: 'Numbers have a parts list', basis: 'ISO 7573' },
  NOT_IN_LIST: { title: 'Every number has its row', basis: 'ISO 7573' },
  LIST_CUT_SHORT: { title: 'The list cuts no text short', basis: PRACTICE },
  LIST_GAP: { title: 'The list has what each source asks for', basis: 'ISO 7573' },
  BOUGHT_NUMBERED: { title: 'Bought parts have no drawing number', basis: PRACTICE },
  MASS_UNKNOWN: { title: 'Masses are known', basis: PRACTICE },
  SPELLING: { title: 'Words are spelt as in a dictionary', basis: PRACTICE },
  SHEET_COUNT: { title: 'Typed counts of sheets are right', basis: 'ISO 7200' },
  NAME_STYLE: { title: 'Descriptions begin with the noun', basis: PRACTICE },
  LANGUAGES: { title: 'The list is in one language', basis: PRACTICE },
  OFF_TARGET: { title: 'Leaders end on their part', basis: 'ISO 6433' },
  WRONG_TARGET: { title: 'Leaders do not end on another part', basis: 'ISO 6433' },
  HIDDEN_TARGET: { title: 'Leaders end on visible edges', basis: 'ISO 6433' },
  ALONG_EDGE: { title: 'Leaders do not run along edges', basis: 'ISO 128-22' },
  LEADERS_CROSS: { title: 'Leaders do not cross', basis: 'ISO 6433' },
  LEADER_SLANT: { title: 'Leaders are slanted', basis: 'ISO 128-22' },
  LEADER_LONG: { title: 'Leaders are short', basis: 'ISO 6433' },
  LEADER_OVER_TEXT: { title: 'Leaders run through no text', basis: 'ISO 128-22' },
  BALLOON_SIZES: { title: 'Balloons are of one size', basis: 'ISO 6433' },
  BALLOON_OVER_VIEW: { title: 'Balloons stand clear of the view', basis: 'ISO 6433' },
  OVERLAP: { title: 'Nothing stands on anything else', basis: PRACTICE },
  OUTSIDE_FRAME: { title: 'Everything is inside the frame', basis: 'ISO 5457' },
  TEXT_CUT: { title: 'No text of a title block is cut short', basis: 'ISO 7200' },
  TEXT_SMALL: { title: 'Texts are legible at this size', basis: 'ISO 3098-1' },
  NUMBERS_SMALL: { title: 'Item numbers are larger than dimensions', basis: 'ISO 6433' },
  VIEW_MISSING: { title: 'Views are up to date', basis: PRACTICE },
  VIEW_EMPTY: { title: 'Views show something', basis: PRACTICE },
  LETTER_TWICE: { title: 'Letters are used once', basis: 'ISO 128-3' },
  LETTER_MISREAD: { title: 'Letters are not misread', basis: 'ASME Y14.3' },
  NOT_LABELLED: { title: 'Sections and details have letters', basis: 'ISO 128-3' },
  NO_CUTTING_LINE: { title: 'Sections have their cutting line', basis: 'ISO 128-3' },
  NO_DETAIL_MARK: { title: 'Details are marked where they come from', basis: 'ISO 128-3' },
  SCALE_ODD: { title: 'Scales are those of the standard', basis: 'ISO 5455' },
  PROJECTION: { title: 'Views stand as the symbol says', basis: 'ISO 5456-2' },
  OUT_OF_LINE: { title: 'Neighbouring views stand in line', basis: 'ISO 128-3' },
  NOT_CUT: { title: 'Sections cut what they meet', basis: PRACTICE },
  NOT_HATCHED: { title: 'What is cut is hatched', basis: 'ISO 128-50' },
  CUT_LENGTHWISE: { title: 'Shafts and fasteners stay whole', basis: 'ISO 128-3' },
  HATCH_ALIKE: { title: 'Touching parts are hatched differently', basis: 'ISO 128-50' },
  HELD_TOGETHER: { title: 'What is held inside is shown', basis: PRACTICE },
  PASSES_THROUGH: { title: 'Exploded parts pass through nothing', basis: PRACTICE },
  EXPLODED_TOUCH: { title: 'Exploded parts stand by themselves', basis: PRACTICE },
  FIELD_EMPTY: { title: 'Fields of notes have a value', basis: PRACTICE },
  LOST_TARGET: { title: 'Dimensions, notes and signs hold on to something', basis: PRACTICE },
  LOST_EDGE: { title: 'Centre marks hold on to something', basis: PRACTICE },
  CHANGED_VALUE: { title: 'Changed values were seen', basis: PRACTICE },
  TYPED_VALUE: { title: 'Dimensions say what the model says', basis: PRACTICE },
  AGAINST_MODEL: { title: 'Tolerances are those that the model states', basis: PRACTICE },
  AWKWARD_VALUE: { title: 'Values can be set in the field', basis: PRACTICE },
  DIMENSION_TWICE: { title: 'Each size is given once', basis: 'ISO 129-1' },
  HIDDEN_DIMENSION: { title: 'Dimensions go to visible edges', basis: 'ISO 129-1' },
  NO_CENTRELINE: { title: 'Centres that are measured from are marked', basis: 'ISO 129-1' },
  NO_MASS: { title: 'The centre of mass is known', basis: PRACTICE },
  LAYER_OFF: { title: 'All layers are printed', basis: PRACTICE },
  TITLE_GAP: { title: 'The title block is filled in', basis: 'ISO 7200' },
};
