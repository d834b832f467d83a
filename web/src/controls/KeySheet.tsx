import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import { useEffect, useState } from 'react';
import { useLoneKey } from './loneKey';

const KEYS: [string, string][] = [
  ['/', 'Find a machine'],
  ['?', 'This list'],
  ['Ctrl + Z', 'Undo what was recorded a moment ago, or the last entry of the job'],
  ['Tab, Shift + Tab', 'Next field or key, the one before'],
  ['Enter in a field', 'Next field; from the last one to the green key'],
  ['Enter on the green key', 'Record'],
  ['↑ ↓, Page up, Page down', 'One step, five steps: a value or the edge in the eyepiece'],
  ['Esc', 'Close'],
  ['A barcode reader', 'Its code opens the machine, whatever has the cursor'],
];

const inField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable=true]') !== null;

/** Keys of the whole application: a list of them on "?", and undo on Ctrl + Z, which leaves what is typed to the field. */
export function KeySheet() {
  const [open, setOpen] = useState(false);
  useLoneKey('?', () => setOpen(true));
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (inField(event.target) || event.altKey) return;
      if (event.key.toLowerCase() === 'z' && (event.ctrlKey || event.metaKey) && !event.shiftKey) {
        const undo = document.querySelector<HTMLElement>('.undobar .key, .shelfkeys [data-undo]');
        if (!undo) return;
        event.preventDefault();
        undo.click();
      }
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
  return (
    <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="sm" aria-labelledby="keys-title">
      <div className="keysheet">
        <h2 id="keys-title" className="title">
          Keys
        </h2>
        <table className="ledger">
          <tbody>
            {KEYS.map(([key, does]) => (
              <tr key={key}>
                <th scope="row">{key}</th>
                <td>{does}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <ButtonBase className="key" onClick={() => setOpen(false)}>
          Close
        </ButtonBase>
      </div>
    </Dialog>
  );
}
