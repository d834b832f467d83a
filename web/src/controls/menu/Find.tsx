import ButtonBase from '@mui/material/ButtonBase';
import { lazy, Suspense, useEffect, useState } from 'react';
import { FindIcon } from '../icons';

const FindDialog = lazy(() => import('./FindDialog'));

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

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
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key !== '/' || event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
  if (!open) return null;
  return (
    <Suspense fallback={null}>
      <FindDialog onClose={() => setOpen(false)} />
    </Suspense>
  );
}
