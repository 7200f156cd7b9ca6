/** What cards that the program makes say of themselves. */
export const cardNotes = {
  taxStart: (from: { readonly package: string } | 'typed', reducedOf: string | null): string =>
    `${from === 'typed' ? 'Standard rate as typed' : `Standard rate by the open data package ${from.package}`}; ` +
    `${reducedOf === null ? 'no reduced rates' : `reduced rates as published, ${reducedOf}`}; ` +
    'customs value as is usual there, no duties. Check before you rely on it.',
} as const;
