import { renderHook } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { useInOrder } from './useInOrder.ts';

describe('work in its order', () => {
  it('waits for what was asked before, and gives what it comes to itself', async () => {
    const inOrder = renderHook(() => useInOrder()).result.current;
    const done: string[] = [];
    let goOn = (): void => undefined;
    const held = new Promise<void>((resolve) => {
      goOn = resolve;
    });
    const slow = inOrder(async () => {
      await held;
      done.push('slow');
      return 1;
    });
    const quick = inOrder(async () => {
      done.push('quick');
      return 'two';
    });
    goOn();
    expect(await Promise.all([slow, quick])).toEqual([1, 'two']);
    expect(done).toEqual(['slow', 'quick']);
  });
  it('goes on after a piece that failed, which is told to whom it belongs', async () => {
    const inOrder = renderHook(() => useInOrder()).result.current;
    const failing = inOrder(() => Promise.reject(new Error('away')));
    const next = inOrder(async () => 'done');
    await expect(failing).rejects.toThrow('away');
    expect(await next).toBe('done');
  });
});
