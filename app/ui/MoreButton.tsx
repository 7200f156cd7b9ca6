/** Opens the menu of a row: what can be done with it. */
import { IconButton } from '@mui/material';
import MoreIcon from '@mui/icons-material/MoreHoriz';

/** `onOpen` gets the button, which the menu hangs on. */
export function MoreButton({ label, onOpen }: { label: string; onOpen: (button: HTMLElement) => void }) {
  return (
    <IconButton size="small" aria-label={label} aria-haspopup="menu" onClick={(e) => onOpen(e.currentTarget)}>
      <MoreIcon fontSize="small" />
    </IconButton>
  );
}
