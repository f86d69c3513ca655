/** What a table is called: its file, and the sheet where the file is a book. */
export const tableName = (file: string, sheet: string | null | undefined): string =>
  sheet === null || sheet === undefined ? file : `${file}, ${sheet}`;
