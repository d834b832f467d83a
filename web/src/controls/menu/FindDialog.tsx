import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import InputBase from '@mui/material/InputBase';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useId, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { loopsOptions } from '../../api/queries';
import { LOOP_SIGN } from '../../language/names';
import { matching } from './match';
import { pageOf } from './scanned';
import './find.css';

const Camera = lazy(() => import('./Camera'));

const MOST = 8;

/** Find a loop by number, name, coolant or state; a code can be read by the camera where there is one. */
const focusIt = (field: HTMLInputElement | null) => field?.focus(); // typing is what the dialog is for

export default function FindDialog({ onClose }: { onClose: () => void }) {
  const id = useId();
  const go = useNavigate();
  const list = useRef<HTMLUListElement>(null);
  const loops = useQuery(loopsOptions);
  const [words, setWords] = useState('');
  const [filming, film] = useState(false);
  const found = words.trim() ? matching(loops.data?.loops ?? [], words) : [];
  const more = `/machines?find=${encodeURIComponent(words.trim())}`;
  const leave = (to: string) => {
    onClose();
    void go(to);
  };
  const press = (event: React.KeyboardEvent) => {
    if (event.key === 'ArrowDown') {
      event.preventDefault();
      list.current?.querySelector('a')?.focus();
    }
    if (event.key === 'Enter' && words.trim()) {
      event.preventDefault();
      const only = found.length === 1 ? found[0] : undefined;
      leave(only ? `/loops/${only.loop_id}` : more);
    }
  };
  const step = (event: React.KeyboardEvent) => {
    if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
    event.preventDefault();
    const links = [...(list.current?.querySelectorAll('a') ?? [])];
    const at = links.indexOf(document.activeElement as HTMLAnchorElement);
    links[at + (event.key === 'ArrowDown' ? 1 : -1)]?.focus();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" className="finddialog" aria-labelledby={id}>
      <h2 id={id} className="lbl">
        Find number, name, loop, coolant or state
      </h2>
      <div className="findline">
        <div className="field wide findbox">
          <div className="box">
            <InputBase
              name="find-all"
              fullWidth
              inputRef={focusIt}
              value={words}
              placeholder="G-07, groomer, overdue, ethylene"
              onChange={(event) => setWords(event.target.value)}
              onKeyDown={press}
              inputProps={{ 'aria-labelledby': id, autoComplete: 'off', enterKeyHint: 'search', 'data-scan': '' }}
            />
          </div>
        </div>
        {'mediaDevices' in navigator && (
          <ButtonBase className="key" onClick={() => film(!filming)} aria-expanded={filming}>
            {filming ? 'Camera off' : 'Scan'}
          </ButtonBase>
        )}
        <ButtonBase className="key" onClick={onClose}>
          Close
        </ButtonBase>
      </div>
      {!window.isSecureContext && (
        <p className="ink2">
          No camera, no installing and no work without a network at this address: a browser allows them over HTTPS alone
          (./temper serve --lan).
        </p>
      )}
      {filming && (
        <Suspense fallback={<p role="status">Loading …</p>}>
          <Camera onCode={(code) => leave(pageOf(code))} />
        </Suspense>
      )}
      <p role="status" className="ink2">
        {words.trim() === ''
          ? ''
          : loops.isPending
            ? 'Loading …'
            : loops.isError
              ? loops.error.message
              : found.length === 0
                ? 'Nothing found. Try the number without the dash, or part of a name.'
                : `${found.length} found`}
      </p>
      {/* arrows step through the links; each is a link all the same */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
      <ul className="findlist" ref={list} onKeyDown={step}>
        {found.slice(0, MOST).map((row) => (
          <li key={row.loop_id}>
            <Link to={`/loops/${row.loop_id}`} onClick={onClose}>
              <span className="plate">
                <span>{row.machine.fleet_number}</span>
              </span>
              <span>
                <b>{row.machine.kind}</b>
                <small>
                  {[row.loop_name, ...(row.line?.signs ?? []).map((sign) => LOOP_SIGN[sign].toLowerCase())].join(', ')}
                </small>
              </span>
            </Link>
          </li>
        ))}
        {found.length > MOST && (
          <li>
            <Link to={more} onClick={onClose} className="key">
              All {found.length} in Machines
            </Link>
          </li>
        )}
      </ul>
    </Dialog>
  );
}
