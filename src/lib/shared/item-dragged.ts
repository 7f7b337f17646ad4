/** Kind of what is dragged when a row of the ledger is: the id of its part. Browsers write kinds in small letters. */
export const ITEM_DRAGGED = 'application/x-quarry-item';
