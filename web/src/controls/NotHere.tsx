import ButtonBase from '@mui/material/ButtonBase';
import { Link } from 'react-router';
import { Page } from './menu/Page';

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
    <Page title={head}>
      <p className="empty">{text}</p>
      <p className="keyrow">
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
    </Page>
  );
}
