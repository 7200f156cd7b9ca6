import { useRef } from 'react';
import type { PointerEvent } from 'react';

/** The edge of a column's head, by which it is made wider: dragged, or with the arrow keys. */
export function Edge({
  width,
  onWidth,
  label,
}: {
  width: number;
  onWidth: (w: number) => void;
  label: string;
}) {
  const start = useRef<{ x: number; width: number } | null>(null);
  const clamp = (w: number): number => Math.max(40, Math.min(900, Math.round(w)));
  return (
    <span
      className="list-edge"
      role="separator"
      aria-orientation="vertical"
      aria-label={label}
      aria-valuenow={width}
      aria-valuemin={40}
      aria-valuemax={900}
      tabIndex={0}
      onPointerDown={(e: PointerEvent<HTMLSpanElement>) => {
        e.preventDefault();
        e.currentTarget.setPointerCapture(e.pointerId);
        start.current = { x: e.clientX, width };
      }}
      onPointerMove={(e) =>
        start.current !== null && onWidth(clamp(start.current.width + e.clientX - start.current.x))
      }
      onPointerUp={() => {
        start.current = null;
      }}
      onKeyDown={(e) => {
        if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
        e.preventDefault();
        onWidth(clamp(width + (e.key === 'ArrowRight' ? 10 : -10)));
      }}
    />
  );
}
