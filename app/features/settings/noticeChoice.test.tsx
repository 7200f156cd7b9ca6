import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { away, stubServer } from '../../ui/testing/server.ts';
import { NoticeChoice } from './NoticeChoice.tsx';

const server = stubServer(() => Response.json({ ok: true }));
const shown = (canMail = true): void =>
  void render(
    <NoticeChoice byMail={{ groups: ['hurdles'], email: 'ada@example.com', canMail }} slug="shop" />,
  );
const box = (name: RegExp) => screen.getByRole('checkbox', { name }) as HTMLInputElement;
const [WORK, HURDLES, SELLERS] = [/^Work that has ended/, /under a hurdle/, /shop you follow/];
const sent = () => server.sent.map((s) => s.body);

describe('notices by mail', () => {
  it('each tick is kept, in the order they were set', async () => {
    shown();
    expect([box(WORK).checked, box(HURDLES).checked]).toEqual([false, true]);
    expect(screen.getByText(/come to ada@example\.com too/)).toBeTruthy();
    fireEvent.click(box(WORK));
    fireEvent.click(box(SELLERS));
    fireEvent.click(box(HURDLES));
    await waitFor(() =>
      expect(sent()).toEqual([
        { groups: ['hurdles', 'work'] },
        { groups: ['hurdles', 'work', 'sellers'] },
        { groups: ['work', 'sellers'] },
      ]),
    );
    expect(server.sent[0]?.url).toBe('/w/shop/settings/notices');
  });
  it('one that is not kept is not ticked, and says why', async () => {
    shown();
    server.answer = away;
    fireEvent.click(box(WORK));
    expect(await screen.findByText(/no answer from the server/)).toBeTruthy();
    expect([box(WORK).checked, box(HURDLES).checked]).toEqual([false, true]);
    server.answer = () => Response.json({ ok: true });
    fireEvent.click(box(WORK));
    await waitFor(() => expect(screen.queryByText(/no answer from the server/)).toBeNull());
    expect(box(WORK).checked).toBe(true);
  });
  it('says where nothing can be mailed', () => {
    shown(false);
    expect(screen.getByText(/has no mail server/)).toBeTruthy();
  });
});
