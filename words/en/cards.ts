/** What cards that the program makes say of themselves. */
export const cardNotes = {
  taxStart: (version: string): string =>
    `Standard rate by the open data package sales-tax ${version}; customs value as is usual there. ` +
    'No duties, no reduced rates. Check before you rely on it.',
} as const;
