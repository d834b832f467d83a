import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../api/client';
import { number } from '../units/units';
import { useUnits } from '../units/UnitsContext';

interface Props {
  vessels: Schemas['VesselState'][];
  onClose: () => void;
}

const SAID_L = 0.05; // a smaller doubt is not shown with one decimal

/** The table twin of the circuit: every vessel with what is in it. */
export function VesselTable({ vessels, onClose }: Props) {
  const { volume } = useUnits();
  return (
    <div className="keysheet">
      <table className="ledger">
        <thead>
          <tr>
            <th scope="col">vessel</th>
            <th scope="col">holds</th>
            <th scope="col">inside</th>
            <th scope="col">old coolant</th>
          </tr>
        </thead>
        <tbody>
          {vessels.map((vessel) => (
            <tr key={vessel.id}>
              <th scope="row">{vessel.name}</th>
              <td>{volume(vessel.volume_l)}</td>
              <td>
                {volume(vessel.litres)}
                {(vessel.litres_half ?? 0) > SAID_L && ` ±${volume(vessel.litres_half ?? 0)}`}
              </td>
              <td>{vessel.old_percent === null ? 'empty' : `${number(vessel.old_percent, 1)} %`}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <ButtonBase className="key" onClick={onClose}>
        Close
      </ButtonBase>
    </div>
  );
}
