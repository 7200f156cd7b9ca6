/** Looks again while a mail is on its way, so that the page says when it has gone. */
import { useEffect } from 'react';
import { useRevalidator } from 'react-router';
import type { PageMail } from './orderPage.ts';

const EVERY_MS = 2000;

export function useMailWatch(mails: readonly PageMail[]): void {
  const { revalidate } = useRevalidator();
  const isUnderWay = mails.some((m) => m.state === 'waiting' || m.state === 'sending');
  useEffect(() => {
    if (!isUnderWay) return;
    const timer = setInterval(() => void revalidate(), EVERY_MS);
    return () => clearInterval(timer);
  }, [isUnderWay, revalidate]);
}
