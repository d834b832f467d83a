import ButtonBase from '@mui/material/ButtonBase';
import { lazy, Suspense, useState } from 'react';
import { FindIcon } from '../icons';
import { useLoneKey } from '../loneKey';

const FindDialog = lazy(() => import('./FindDialog'));

/** The find field of the menu; "/" opens it from everywhere. */
export function FindKey() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <ButtonBase
        className="findkey"
        aria-haspopup="dialog"
        aria-keyshortcuts="/"
        aria-label="Find number, name, coolant"
        onClick={() => setOpen(true)}
      >
        <FindIcon />
        <span className="long">Find number, name, coolant</span>
        <kbd aria-hidden="true">/</kbd>
      </ButtonBase>
      {open && (
        <Suspense fallback={null}>
          <FindDialog onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}

/** "/" anywhere but in a field opens the find field. */
export function FindByKey() {
  const [open, setOpen] = useState(false);
  useLoneKey('/', () => setOpen(true));
  if (!open) return null;
  return (
    <Suspense fallback={null}>
      <FindDialog onClose={() => setOpen(false)} />
    </Suspense>
  );
}
