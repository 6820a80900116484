/**
 * A text as a spreadsheet takes it for one: what it would take for a formula has an apostrophe before it, as spreadsheets
 * themselves mark text (practice).
 */
export const defused = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);
