/** Forms that are sent whole: read by one schema in the browser, as one leaves a field, and on the server. */
import { getFormProps, useForm } from '@conform-to/react';
import type { FieldMetadata, SubmissionResult } from '@conform-to/react';
import { parseWithZod } from '@conform-to/zod/v4';
import type { z } from 'zod';
import { faultOf } from '../../core/issues.ts';
import { inWords } from '../../words/index.ts';

/** What a form says, or what is wrong with which of its fields, in words. */
export const readForm = <S extends z.ZodType<object>>(form: FormData, schema: S) =>
  parseWithZod(form, {
    schema,
    formatError: (issues: z.core.$ZodIssue[]) => issues.map((i) => inWords(faultOf(i))),
  });

/** What the server said of a form that cannot be taken. */
export type FormAnswer = { readonly form?: SubmissionResult };

/** What goes back to a form that cannot be taken; passwords never do. */
export const notYet = (sent: {
  reply(options: { hideFields: string[] }): SubmissionResult<string[]>;
}): { form: SubmissionResult } => ({ form: sent.reply({ hideFields: ['password', 'current'] }) });

/** A field as it is drawn: what it begins with, and what is wrong with it once it was left. */
export type FieldOf = {
  readonly id: string;
  readonly name: string;
  readonly begins: string | undefined;
  readonly wrong: string | undefined;
  readonly wrongId: string;
};

/** A form of text fields: the properties of its element, and each of its fields. */
export function useRecordForm<S extends z.ZodType<object>>(
  schema: S,
  answer: FormAnswer | undefined,
  begins: Readonly<Record<string, string>> = {},
): { props: ReturnType<typeof getFormProps>; field: (name: string) => FieldOf } {
  const [form, fields] = useForm<Record<string, string>>({
    lastResult: answer?.form,
    defaultValue: begins,
    onValidate: ({ formData }) => readForm(formData, schema) as never,
    shouldValidate: 'onBlur',
    shouldRevalidate: 'onInput',
  });
  const field = (name: string): FieldOf => {
    const f = fields[name] as FieldMetadata<string>;
    return { id: f.id, name, begins: f.initialValue, wrong: f.errors?.[0], wrongId: f.errorId };
  };
  return { props: getFormProps(form), field };
}
