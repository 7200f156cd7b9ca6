/** The class names that apply, as one text. */
export const classes = (...names: readonly (string | false)[]): string => names.filter(Boolean).join(' ');
