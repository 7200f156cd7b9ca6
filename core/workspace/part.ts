/** Some fields of a document, as a change sends them. */
import { z } from 'zod';

/**
 * A part of what `whole` describes: each field that is there is checked as in the whole, what is left out stays out and
 * gets no default; a field that there is not is refused.
 */
export function partOf<S extends z.ZodRawShape>(whole: z.ZodObject<S>) {
  const part = whole.partial();
  return z.unknown().transform((raw, ctx): Partial<z.output<z.ZodObject<S>>> => {
    const read = part.safeParse(raw);
    if (read.success)
      return Object.fromEntries(
        Object.entries(read.data).filter(([key]) => Object.hasOwn(raw as object, key)),
      ) as Partial<z.output<z.ZodObject<S>>>;
    for (const issue of read.error.issues) ctx.addIssue({ ...issue } as never);
    return z.NEVER;
  });
}

/** The fields of `of` that `whole` describes. */
export const fieldsOf = <T extends object>(whole: { readonly shape: object }, of: object): T =>
  Object.fromEntries(Object.entries(of).filter(([key]) => Object.hasOwn(whole.shape, key))) as T;
