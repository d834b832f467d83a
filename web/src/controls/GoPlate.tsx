import ButtonBase from '@mui/material/ButtonBase';
import { Arrow } from './icons';

interface Props {
  act: string;
  then?: string;
  onPress: () => void;
  busy?: boolean;
  /** Says what it waits for; then it is outlined and presses nothing. */
  waits?: string | null;
  type?: 'button' | 'submit';
}

const LONG = 31;

/** A fleet number never breaks at its hyphen. */
const unbroken = (said: string) =>
  said.split(/(\S*\d\S*)/).map((part, i) =>
    i % 2 === 0 ? (
      part
    ) : (
      <span key={i} className="nobr">
        {part}
      </span>
    ),
  );

/** The one act that hands do next, and one line of what follows. Never disabled without words. */
export function GoPlate({ act, then, onPress, busy = false, waits = null, type = 'button' }: Props) {
  const said = waits ?? act;
  const press = () => {
    if (!busy && waits === null) onPress();
  };
  return (
    <ButtonBase
      className={`go${waits === null ? '' : ' waits'}${busy ? ' busy' : ''}`}
      aria-disabled={busy || waits !== null}
      aria-busy={busy}
      onClick={press}
      type={type}
      data-testid="go"
    >
      <span>
        <span className={`do${said.length > LONG ? ' long' : ''}`}>{unbroken(said)}</span>
        <span className="then">
          <span>{then && `Then: ${then}`}</span>
          {waits === null && <Arrow />}
        </span>
      </span>
    </ButtonBase>
  );
}
