import type { ReactNode } from 'react';
import { TopStrip } from './TopStrip';

interface Props {
  fleetNumber: string;
  head: string;
  /** One line below the head. */
  children: ReactNode;
}

/** The top strip of a page about one machine: its plate, what the page answers, one line more. */
export function MachineStrip({ fleetNumber, head, children }: Props) {
  return (
    <TopStrip>
      <div className="plateslot">
        <span className="plate">
          <span>{fleetNumber}</span>
        </span>
      </div>
      <div className="veh wholeline">
        <div>
          <b>{head}</b>
          <span>{children}</span>
        </div>
      </div>
    </TopStrip>
  );
}
