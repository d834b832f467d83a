import ButtonBase from '@mui/material/ButtonBase';
import { Link } from 'react-router';

interface Props {
  head: string;
  text: string;
  retry?: () => void;
  /** Where else to go on, beside the board. */
  way?: { to: string; label: string };
}

/** An empty or broken page says what it is and gives a way on. */
export function NotHere({ head, text, retry, way }: Props) {
  return (
    <main className="empty" id="work">
      <b>{head}</b>
      <p>{text}</p>
      <p style={{ display: 'flex', gap: 12, marginTop: 20 }}>
        {retry && (
          <ButtonBase className="key" onClick={retry}>
            Try again
          </ButtonBase>
        )}
        {way && (
          <ButtonBase className="key" component={Link} to={way.to}>
            {way.label}
          </ButtonBase>
        )}
        <ButtonBase className="key" component={Link} to="/">
          Board
        </ButtonBase>
      </p>
    </main>
  );
}
