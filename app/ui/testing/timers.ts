import { act } from '@testing-library/react';
import { vi } from 'vitest';

/** Does something and lets its timers run out at once, for whoever expects that nothing comes of it. */
export async function untilTimersHaveRun(work: () => void): Promise<void> {
  vi.useFakeTimers();
  try {
    work();
    await act(() => vi.advanceTimersByTimeAsync(5000));
  } finally {
    vi.useRealTimers();
  }
}
