import { RECIPE_FORMAT, type Recipe, type RecipeSheet } from './record.ts';

const arrangement: readonly RecipeSheet[] = [
  {
    name: 'General arrangement',
    per: 'whole',
    slots: [
      { want: 'arrangement', name: 'Front, top, right, isometric' },
      { want: 'section', name: 'Section through the main axis' },
    ],
  },
  {
    name: 'Exploded view and parts list',
    per: 'whole',
    slots: [
      { want: 'exploded view', name: 'Exploded view', balloons: true },
      { want: 'list', name: 'Parts list' },
    ],
  },
];

const partSheet: RecipeSheet = {
  name: 'Part: {subject}',
  per: 'made part',
  slots: [{ want: 'part views', name: 'The views it needs, sizes, holes', dimensions: true, centrelines: true }],
};

/** Recipes that come with the application. */
export const SHIPPED: readonly Recipe[] = [
  {
    format: RECIPE_FORMAT,
    name: 'Arrangement',
    words: 'The first drawing: views from three sides with a pictorial, a section through the main axis, the exploded view with balloons, and the parts list.',
    sheets: arrangement,
  },
  {
    format: RECIPE_FORMAT,
    name: 'Arrangement with part sheets',
    words: 'The arrangement, and a sheet for each made part: the views that it needs, its sizes and holes, its own title block.',
    sheets: [...arrangement, partSheet],
  },
  {
    format: RECIPE_FORMAT,
    name: 'Bench set',
    words: 'For the bench: each sub-assembly pulled apart, large, with balloons and its own list; then the whole.',
    sheets: [
      {
        name: '{subject}',
        per: 'sub-assembly',
        slots: [
          { want: 'exploded view', name: 'Exploded view', balloons: true, shaded: true },
          { want: 'list', name: 'Parts of it' },
        ],
      },
      {
        name: 'Whole',
        per: 'whole',
        slots: [
          { want: 'exploded view', name: 'Exploded view', balloons: true, shaded: true },
          { want: 'list', name: 'Parts list' },
        ],
      },
    ],
  },
  {
    format: RECIPE_FORMAT,
    name: 'Bent plates',
    words: 'The arrangement, a sheet for each part bent from plate with its flat pattern, bend lines and table of bends, and a cut list.',
    sheets: [
      ...arrangement,
      {
        name: 'Bent plate: {subject}',
        per: 'bent part',
        slots: [
          { want: 'part views', name: 'The views it needs, sizes, holes', dimensions: true, centrelines: true },
          { want: 'flat pattern', name: 'Flat pattern', dimensions: true, centrelines: true },
          { want: 'bend table', name: 'Bends' },
        ],
      },
      { name: 'Cut list', per: 'whole', slots: [{ want: 'list', name: 'Cut list', like: { rows: 'stock' } }] },
    ],
  },
];

/** A shipped recipe by its name, whatever its capitals. */
export const shippedRecipe = (name: string): Recipe | undefined => SHIPPED.find((r) => r.name.toLowerCase() === name.toLowerCase());
