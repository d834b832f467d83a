import ButtonBase from '@mui/material/ButtonBase';
import { useSignOut } from '../api/useSignOut';
import { useTitle } from '../controls/menu/Page';
import { PasswordForm } from './PasswordForm';
import './people.css';
import './signIn.css';

/** Somebody else set the password: before anything else one sets one's own. */
export function FirstPassword({ name }: { name: string }) {
  useTitle('Set your password');
  const signOut = useSignOut();
  return (
    <main className="signin">
      <div className="signform">
        <h1 className="title">Set your own password</h1>
        <p>{name}, your password was set by somebody else. Choose one that only you know.</p>
        <PasswordForm />
        <ButtonBase className="key small" onClick={() => void signOut()}>
          Sign out
        </ButtonBase>
      </div>
    </main>
  );
}
