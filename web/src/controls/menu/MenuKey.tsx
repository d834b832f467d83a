import ButtonBase from '@mui/material/ButtonBase';
import Popover from '@mui/material/Popover';
import { type ReactNode, useId, useState } from 'react';
import { useLocation } from 'react-router';

interface Props {
  /** What the panel is called. */
  label: string;
  className: string;
  /** What stands on the key. */
  face: ReactNode;
  children: ReactNode;
}

/** A key that opens a panel under it; choosing a page in it closes it. */
export function MenuKey({ label, className, face, children }: Props) {
  const id = useId();
  const { key } = useLocation();
  const [openAt, setOpenAt] = useState<{ element: HTMLElement; page: string } | null>(null);
  const open = openAt?.page === key; // a page that was chosen has another key
  return (
    <>
      <ButtonBase
        className={className}
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-controls={open ? id : undefined}
        onClick={(event) => setOpenAt({ element: event.currentTarget, page: key })}
      >
        {face}
      </ButtonBase>
      <Popover
        open={open}
        anchorEl={openAt?.element}
        onClose={() => setOpenAt(null)}
        transitionDuration={0} // nothing moves away from under a finger
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { id, role: 'dialog', 'aria-label': label, className: 'menupanel' } }}
      >
        {children}
      </Popover>
    </>
  );
}
