import ButtonBase from '@mui/material/ButtonBase';
import { focusAsked } from './focus';
import { Arrow } from './icons';

interface Props {
  act: string;
  then?: string;
  onPress: () => void;
  busy?: boolean;
  /** Says what it waits for; then it is outlined, records nothing and leads to it. */
  waits?: string | null;
  /** What it waits for, as a selector; pressing it goes there. By default the field that is wrong, or not answered. */
  asks?: string | undefined;
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
export function GoPlate({ act, then, onPress, busy = false, waits = null, asks, type = 'button' }: Props) {
  const said = waits ?? act;
  const press = () => {
    if (busy) return;
    if (waits === null) onPress();
    else focusAsked(asks);
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
