import { act, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useWidth } from './useWidth.ts';

/** What was told the width, and the widths that were drawn. */
let tell: (width: number) => void = () => undefined;
let ended = 0;
const drawn: number[] = [];
function Measured() {
  const [at, width] = useWidth<HTMLDivElement>(800);
  drawn.push(width);
  return <div ref={at}>{width}</div>;
}
beforeEach(() => {
  drawn.splice(0);
  ended = 0;
  vi.stubGlobal(
    'ResizeObserver',
    class {
      constructor(hear: (entries: { contentRect: { width: number } }[]) => void) {
        tell = (width) => hear([{ contentRect: { width } }]);
      }
      observe(): void {}
      disconnect(): void {
        ended++;
      }
    },
  );
  Object.defineProperty(HTMLElement.prototype, 'clientWidth', { configurable: true, get: () => 390 });
});
afterEach(() => {
  vi.unstubAllGlobals();
  Reflect.deleteProperty(HTMLElement.prototype, 'clientWidth');
});

describe('the width of what a picture stands in', () => {
  it('is measured before anything is painted: on a phone nothing stands wider than it for a moment', () => {
    render(<Measured />);
    expect(screen.getByText('390')).toBeTruthy();
    expect(drawn).toEqual([800, 390]);
  });
  it('follows, down to a width that can still be drawn in', () => {
    render(<Measured />);
    act(() => tell(612));
    expect(screen.getByText('612')).toBeTruthy();
    act(() => tell(12));
    expect(screen.getByText('280')).toBeTruthy();
  });
  it('is no longer watched once it is gone', () => {
    const { unmount } = render(<Measured />);
    unmount();
    expect(ended).toBe(1);
  });
});
