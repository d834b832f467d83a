import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import { type ReactNode, useId } from 'react';
import './dialogFrame.css';

interface Props {
  open: boolean;
  title: ReactNode;
  /** The key that leaves it as it was. */
  leave?: 'Close' | 'Cancel';
  className?: string;
  onClose: () => void;
  children: ReactNode;
}

/** A dialog with its heading and the key that leaves it; what it asks for stands between. */
export function DialogFrame({ open, title, leave = 'Close', className = '', onClose, children }: Props) {
  const id = useId();
  return (
    <Dialog open={open} onClose={onClose} maxWidth="sm" fullWidth aria-labelledby={id}>
      <div className={`dialogframe ${className}`}>
        <header>
          <h2 id={id} className="title">
            {title}
          </h2>
          <ButtonBase className="key" onClick={onClose}>
            {leave}
          </ButtonBase>
        </header>
        {children}
      </div>
    </Dialog>
  );
}
