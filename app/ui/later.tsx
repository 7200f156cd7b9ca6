/**
 * Menus and panels that open over the page: their code is loaded when the first of them opens, so that a page
 * stands sooner.
 */
import type { MenuProps, PopoverProps } from '@mui/material';
import { lazy, Suspense } from 'react';

const MuiMenu = lazy(() => import('@mui/material/Menu'));
const MuiPopover = lazy(() => import('@mui/material/Popover'));

export function Menu(props: MenuProps) {
  return props.open ? (
    <Suspense fallback={null}>
      <MuiMenu {...props} />
    </Suspense>
  ) : null;
}

export function Popover(props: PopoverProps) {
  return props.open ? (
    <Suspense fallback={null}>
      <MuiPopover {...props} />
    </Suspense>
  ) : null;
}
