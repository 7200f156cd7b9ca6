/** The choices of a card's cells in the reader's words; files and cells keep the stable names of the format. */
import type { TFunction } from 'i18next';
import type { Column } from '../../../core/cards/cells.ts';

/** One choice in words: those of its own column where it has any, else those it has everywhere. */
export function choiceWord(t: TFunction, column: Column, choice: string): string {
  const own = t(`cards.choice.${column.key}.${choice}`, { defaultValue: '' });
  return own === '' ? t(`cards.choice.${choice}`, { defaultValue: choice }) : own;
}

const hasChoices = (column: Column): boolean => (column.choices?.length ?? 0) > 0;

/** A cell as it is shown: choices in words, anything else as it stands. */
export function shownCell(t: TFunction, column: Column, text: string): string {
  if (!hasChoices(column)) return text;
  if (column.kind !== 'choices') return column.choices?.includes(text) ? choiceWord(t, column, text) : text;
  const parts = text.split(/\s+/).filter((p) => p !== '');
  return parts.every((p) => column.choices?.includes(p))
    ? parts.map((p) => choiceWord(t, column, p)).join(', ')
    : text;
}

/** A typed text with choices named by their words turned into the names the format has; else the text itself. */
export function namedChoices(t: TFunction, column: Column, text: string): string {
  if (!hasChoices(column)) return text;
  const nameOf = (typed: string): string => {
    const wanted = typed.trim().toLowerCase();
    return (
      column.choices?.find((c) => [c, choiceWord(t, column, c)].some((w) => w.toLowerCase() === wanted)) ??
      typed
    );
  };
  return column.kind !== 'choices' || !/[,;]/.test(text)
    ? nameOf(text)
    : text
        .split(/[,;]/)
        .map((part) => nameOf(part).trim())
        .filter((part) => part !== '')
        .join(' ');
}
