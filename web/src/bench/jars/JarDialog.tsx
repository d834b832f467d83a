import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import useMediaQuery from '@mui/material/useMediaQuery';
import type { Schemas } from '../../api/client';
import { useDepot } from '../../api/useDepot';
import { Photos } from '../Photos';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { timeOf } from '../../language/time';
import { METHOD, WATER_KIND } from '../../language/names';
import { roundName } from './roundName';
import { jarWords } from '../../figures/jarLook';
import '../curve.css';

interface Props {
  bench: Schemas['Bench'];
  round: Schemas['RoundState'];
  onClose: () => void;
}

/** One jar opened: its photo, what was seen and read, what was done. */
export function JarDialog({ bench, round, onClose }: Props) {
  const small = useMediaQuery('(max-width: 900px)');
  const { system, volume } = useUnits();
  const zone = useDepot()?.time_zone;
  const words = jarWords(round.jar);
  const entryId = round.jar?.entry_id;
  const title = `Jar ${round.number + 1}, ${roundName(round)}`;
  return (
    <Dialog open onClose={onClose} fullScreen={small} maxWidth="sm" fullWidth aria-labelledby="jar-title">
      <div className="curve jardialog">
        <header>
          <h2 id="jar-title" className="title">
            {title}
          </h2>
          <ButtonBase className="key" onClick={onClose}>
            Close
          </ButtonBase>
        </header>
        {entryId ? (
          <Photos
            loopId={bench.loop.id}
            entryId={entryId}
            photos={bench.photos}
            open={!bench.state.signed_at}
            what={words}
          />
        ) : (
          <p className="ink2">No sample taken.</p>
        )}
        <dl className="jarfacts">
          <dt>Looks</dt>
          <dd>{words}</dd>
          {round.method && (
            <>
              <dt>Done</dt>
              <dd>
                {METHOD[round.method]}, {volume(round.water_l)} {round.water ? `${WATER_KIND[round.water]} water` : ''}
              </dd>
            </>
          )}
          {round.out_l !== null && (
            <>
              <dt>Drained</dt>
              <dd>{volume(round.out_l)}</dd>
            </>
          )}
          {round.jar?.says && (
            <>
              <dt>Read</dt>
              <dd>{sayIn(round.jar.says, system)}</dd>
            </>
          )}
          {round.vessels.some((vessel) => vessel.old_percent !== null) && (
            <>
              <dt>Inside</dt>
              <dd>
                {round.vessels
                  .filter((vessel) => vessel.old_percent !== null)
                  .map((vessel) => vesselWords(vessel))
                  .join('; ')}
              </dd>
            </>
          )}
          {round.finished_old_percent !== null && (
            <>
              <dt>Left</dt>
              <dd>
                {number(round.finished_old_percent, 1)} ±{number(round.finished_half_percent ?? 0, 1)} % old in the
                finished loop, {round.source}
              </dd>
            </>
          )}
          {round.thin.map((said) => (
            <dd key={said.code} className="hot">
              {sayIn(said, system)}
            </dd>
          ))}
          <dt>By</dt>
          <dd>
            {round.by}, {timeOf(round.at, zone)}
          </dd>
        </dl>
        <p className="ink2">Looks only: colour does not tell the chemistry.</p>
      </div>
    </Dialog>
  );
}

/** "Heater 5.4 ±1.4 % old, 23 % cleaner, 64 mg/l of tap residue" */
function vesselWords(vessel: Schemas['RoundVessel']): string {
  const half = vessel.old_half_percent ?? 0;
  return [
    `${vessel.name} ${number(vessel.old_percent ?? 0, 1)}${half >= 0.05 ? ` ±${number(half, 1)}` : ''} % old`,
    vessel.cleaner_percent >= 0.05 ? `${number(vessel.cleaner_percent, 1)} % cleaner` : '',
    vessel.solids_mg_l >= 1 ? `${number(vessel.solids_mg_l, 0)} mg/l of tap residue` : '',
  ]
    .filter(Boolean)
    .join(', ');
}
