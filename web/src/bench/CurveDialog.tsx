import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import useMediaQuery from '@mui/material/useMediaQuery';
import { lazy, Suspense } from 'react';
import type { Schemas } from '../api/client';
import type { FrostMarks } from '../figures/FrostRule';
import { number } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import './curve.css';

const CurveChart = lazy(() => import('../figures/CurveChart'));

interface Props {
  open: boolean;
  onClose: () => void;
  scale: Schemas['FrostScale'];
  marks: FrostMarks;
}

/** The curve itself, opened: what the frost rule is read from, as a chart and as a table. */
export function CurveDialog({ open, onClose, scale, marks }: Props) {
  const small = useMediaQuery('(max-width: 900px)');
  const { system, temperature } = useUnits();
  const rows = scale.lean.filter((mark) => Math.round(mark.glycol_mass_percent) % 10 === 0);
  return (
    <Dialog open={open} onClose={onClose} fullScreen={small} maxWidth="md" fullWidth aria-labelledby="curve-title">
      <div className="curve">
        <header>
          <h2 id="curve-title" className="title">
            {scale.glycol === 'propylene' ? 'Propylene glycol' : 'Ethylene glycol'}: strength and freeze point
          </h2>
          <ButtonBase className="key" onClick={onClose}>
            Close
          </ButtonBase>
        </header>
        <Suspense fallback={<p className="empty">Loading …</p>}>
          <CurveChart system={system} scale={scale} marks={marks} height={small ? 380 : 440} />
        </Suspense>
        <p>
          {scale.rich.length > 0
            ? `Two handbooks differ: the colder one is used, “protects to” uses the warmer. Not tabulated between 60 and 80 %; above that, more glycol protects less.`
            : 'The handbooks agree. Not tabulated beyond the end of the curve.'}
        </p>
        <table className="curvetable">
          <thead>
            <tr>
              <th scope="col">% by mass</th>
              {rows.map((mark) => (
                <td key={mark.glycol_mass_percent}>{number(mark.glycol_mass_percent, 0)}</td>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">freezes at</th>
              {rows.map((mark) => (
                <td key={mark.glycol_mass_percent}>{temperature(mark.freeze_c, 0)}</td>
              ))}
            </tr>
            {scale.rich.length > 0 && (
              <tr>
                <th scope="row">warmer handbook</th>
                {rows.map((mark) => (
                  <td key={mark.glycol_mass_percent}>{mark.warmer_c === null ? '' : temperature(mark.warmer_c, 0)}</td>
                ))}
              </tr>
            )}
          </tbody>
        </table>
      </div>
    </Dialog>
  );
}
