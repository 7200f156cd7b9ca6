/** What the plain rules of what is drawn share. */
export const v = (name: string): string => `var(--mui-palette-${name})`;
export const plainButton = {
  font: 'inherit',
  color: 'inherit',
  background: 'none',
  border: 0,
  padding: 0,
  cursor: 'pointer',
} as const;
