import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub, useActionData } from 'react-router';
import { describe, expect, it } from 'vitest';
import { signUpForm } from '../../../core/workspace/people.ts';
import { notYet, readForm } from '../../ui/forms.ts';
import { AccountForm } from './AccountForm.tsx';
import type { AccountAnswer } from './AccountForm.tsx';

/** The form of a new account, and what its action was sent. */
function shown(answer: (form: FormData) => AccountAnswer) {
  const sent: Record<string, FormDataEntryValue>[] = [];
  function Page() {
    return (
      <AccountForm
        schema={signUpForm}
        said={useActionData<AccountAnswer>()}
        button="Create"
        hidden={{ to: '/w/shop' }}
        fields={[
          { name: 'name', label: 'Your name' },
          { name: 'email', label: 'E-mail', type: 'email' },
          { name: 'password', label: 'Password', type: 'password', help: 'At least ten characters' },
        ]}
      />
    );
  }
  const Stub = createRoutesStub([
    {
      path: '/',
      Component: Page,
      action: async ({ request }) => {
        const form = await request.formData();
        sent.push(Object.fromEntries(form));
        return answer(form);
      },
    },
  ]);
  render(<Stub initialEntries={['/']} />);
  return sent;
}
const type = (label: string, value: string) =>
  fireEvent.input(screen.getByLabelText(label), { target: { value } });
const send = () => fireEvent.click(screen.getByRole('button', { name: 'Create' }));

describe('the form of an account', () => {
  it('what is wrong stands at its fields, and nothing is sent', async () => {
    const sent = shown(() => ({}));
    type('E-mail', 'nobody');
    type('Password', 'short');
    send();
    expect(await screen.findByText('There is no name. Write your name.')).toBeTruthy();
    expect(screen.getByText(/^This is not an e-mail address/)).toBeTruthy();
    expect(screen.getByText(/^The password needs at least 10 characters/)).toBeTruthy();
    expect(screen.getByLabelText('Your name').getAttribute('aria-invalid')).toBe('true');
    expect(sent).toEqual([]);
  });
  it('is sent with what it hides, and says what came of it', async () => {
    const sent = shown(() => ({ code: 'USER_ALREADY_EXISTS' }));
    type('Your name', 'Ada');
    type('E-mail', 'ada@example.com');
    type('Password', 'ten letters at least');
    send();
    expect((await screen.findByRole('alert')).textContent).toMatch(/account with this e-mail already/);
    expect(sent).toEqual([
      { to: '/w/shop', name: 'Ada', email: 'ada@example.com', password: 'ten letters at least' },
    ]);
  });
  it('what the server alone finds wrong stands at the field too', async () => {
    shown((form) => {
      form.set('email', 'taken');
      const again = readForm(form, signUpForm);
      return again.status === 'success' ? {} : notYet(again);
    });
    type('Your name', 'Ada');
    type('E-mail', 'ada@example.com');
    type('Password', 'ten letters at least');
    send();
    await waitFor(() => expect(screen.getByLabelText('E-mail').getAttribute('aria-invalid')).toBe('true'));
  });
  it('a reason without words of its own is told in general ones', async () => {
    shown(() => ({ code: 'SOMETHING_NEW' }));
    type('Your name', 'Ada');
    type('E-mail', 'ada@example.com');
    type('Password', 'ten letters at least');
    send();
    expect((await screen.findByRole('alert')).textContent).toMatch(/That did not work/);
  });
});
