import { readJsonAs } from '../base/read-json.ts';
import { sheetFormat, type SheetFormat } from './record.ts';

/** A sheet format from the text of its file. @throws QuarryError BAD_REQUEST that says what is wrong and where */
export const readFormat = (text: string): SheetFormat => readJsonAs(sheetFormat, text, 'sheet format');

/** A sheet format as the text of a file. */
export const writeFormat = (f: SheetFormat): string => `${JSON.stringify(f, null, 2)}\n`;
