import { fireEvent, render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { PASSWORD, signInForm, signUpForm } from '../../core/workspace/people.ts';
import { supplierRecord } from '../../core/workspace/supplier.ts';
import { notYet, readForm, useRecordForm } from './forms.ts';
import type { FormAnswer } from './forms.ts';

const formOf = (values: Record<string, string>): FormData => {
  const form = new FormData();
  for (const [name, value] of Object.entries(values)) form.set(name, value);
  return form;
};
const SUPPLIER = { name: 'Brackwater', country: 'pl', currency: '', contact: '', mail: '', notes: '' };

describe('a form that was sent', () => {
  it('is read as its schema says: blanks as such, codes in capitals', () => {
    const sent = readForm(formOf(SUPPLIER), supplierRecord);
    expect(sent.status === 'success' && sent.value).toEqual({
      name: 'Brackwater',
      country: 'PL',
      currency: null,
      contact: '',
      mail: '',
      language: 'en',
      notes: '',
    });
  });
  it('says which field is wrong, in words', () => {
    const sent = readForm(formOf({ ...SUPPLIER, name: ' ', country: 'PO' }), supplierRecord);
    expect(notYet(sent).form.error).toEqual({
      name: ['The supplier has no name. Give the supplier a name.'],
      country: ['Use a two-letter country code such as DE. Write it in capitals.'],
    });
  });
  it('gives what was typed back, and no password', () => {
    const sent = readForm(formOf({ email: 'nobody', password: 'secret words here' }), signInForm);
    const { form } = notYet(sent);
    expect(form.initialValue).toEqual({ email: 'nobody' });
    expect(JSON.stringify(form)).not.toContain('secret');
  });
  it.each([
    ['x'.repeat(PASSWORD.least - 1), 'The password needs at least 10 characters. Type a longer one.'],
    ['x'.repeat(PASSWORD.most + 1), 'The password may have 128 characters at most. Type a shorter one.'],
    ['', 'There is no password. Type it.'],
    ['x'.repeat(PASSWORD.least), undefined],
  ])('a password of %s: %s', (password, says) => {
    const sent = readForm(formOf({ name: 'Ada', email: 'ada@example.com', password }), signUpForm);
    expect(sent.status === 'success' ? undefined : notYet(sent).form.error?.password?.[0]).toBe(says);
  });
});

function Held({ answer }: { answer?: FormAnswer }) {
  const form = useRecordForm(supplierRecord, answer, { name: 'Brackwater', country: 'PL' });
  const [name, country] = [form.field('name'), form.field('country')];
  return (
    <form method="post" {...form.props}>
      {[name, country].map((f) => (
        <label key={f.name} htmlFor={f.id}>
          {f.name}
          <input id={f.id} name={f.name} defaultValue={f.begins} aria-invalid={f.wrong !== undefined} />
          <span id={f.wrongId}>{f.wrong}</span>
        </label>
      ))}
      <button type="submit">Save</button>
    </form>
  );
}

describe('a form on screen', () => {
  const type = (field: HTMLElement, value: string) => fireEvent.input(field, { target: { value } });
  it('begins with what is there, and says what is wrong once a field is left', () => {
    render(<Held />);
    const name = screen.getByLabelText(/^name/);
    expect((name as HTMLInputElement).value).toBe('Brackwater');
    fireEvent.focus(name);
    type(name, '');
    expect(name.getAttribute('aria-invalid')).toBe('false');
    fireEvent.focusOut(name);
    expect(name.getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByText('The supplier has no name. Give the supplier a name.')).toBeTruthy();
    type(name, 'Larkmoor');
    expect(name.getAttribute('aria-invalid')).toBe('false');
  });
  it('what the server said stands at its field', () => {
    const sent = readForm(formOf({ ...SUPPLIER, country: 'Poland' }), supplierRecord);
    render(<Held answer={notYet(sent)} />);
    expect(screen.getByLabelText(/^country/).getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByLabelText(/^name/).getAttribute('aria-invalid')).toBe('false');
  });
});
