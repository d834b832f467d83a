import Dialog from '@mui/material/Dialog';
import InputBase from '@mui/material/InputBase';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useEffect, useId, useState } from 'react';
import { api, onSignedOut, Refusal as RefusalError, unwrap } from '../api/client';
import { sessionOptions } from '../api/queries';
import { GoPlate } from '../controls/GoPlate';
import { useTitle } from '../controls/menu/Page';
import { Refusal } from '../controls/Refusal';
import './signIn.css';

interface FormProps {
  head: ReactNode;
  className: string;
  foot?: ReactNode;
  onSignedIn?: () => void;
}

function SignInForm({ head, className, foot, onSignedIn }: FormProps) {
  const id = useId();
  const client = useQueryClient();
  const [username, setUsername] = useState('');
  const [password, setPassword] = useState('');
  const [refusal, setRefusal] = useState<RefusalError | null>(null);
  const [busy, setBusy] = useState(false);
  const [capitals, setCapitals] = useState(false);

  const signIn = async () => {
    setBusy(true);
    setRefusal(null);
    try {
      await unwrap(api.GET('/api/session')); // sets the CSRF cookie where there is none yet
      const session = await unwrap(api.POST('/api/session', { body: { username: username.trim(), password } }));
      client.setQueryData(sessionOptions.queryKey, session);
      onSignedIn?.();
      await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'session' });
    } catch (error) {
      setRefusal(
        error instanceof RefusalError ? error : new RefusalError(0, '', '', 'Something went wrong: try again.'),
      );
    } finally {
      setBusy(false);
    }
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!busy) void signIn();
  };
  return (
    <form className={className} onSubmit={submit}>
      {head}
      <div className="field wide">
        <label className="lbl" htmlFor={`${id}u`}>
          Name, as shown or as you sign in
        </label>
        <div className="box">
          <InputBase
            id={`${id}u`}
            name="username"
            fullWidth
            value={username}
            onChange={(event) => setUsername(event.target.value)}
            inputProps={{ autoComplete: 'username', autoCapitalize: 'none' }}
          />
        </div>
      </div>
      <div className={`field wide${refusal ? ' refused' : ''}`}>
        <label className="lbl" htmlFor={`${id}p`}>
          Password
        </label>
        <div className="box">
          <InputBase
            id={`${id}p`}
            name="password"
            type="password"
            fullWidth
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            onKeyUp={(event) => setCapitals(event.getModifierState('CapsLock'))}
            inputProps={{ autoComplete: 'current-password' }}
          />
        </div>
      </div>
      {capitals && <p role="status">Caps Lock is on.</p>}
      {refusal && <Refusal which={refusal.message} />}
      <GoPlate
        act="Sign in"
        type="submit"
        busy={busy}
        waits={username.trim() && password ? null : username.trim() ? 'Enter the password' : 'Enter name and password'}
        onPress={() => undefined}
      />
      {foot}
    </form>
  );
}

export function SignInPage() {
  useTitle('Sign in');
  const demo = useQuery(sessionOptions).data?.demo_sign_in;
  return (
    <main className="signin">
      <SignInForm
        className="signform"
        head={
          <h1 className="mark-temper">
            <span className="plate">
              <span>Temper</span>
            </span>
            Sign in
          </h1>
        }
        foot={
          demo && (
            <p>
              This is the demo, all made up. Sign in as <b>ines</b>, <b>tomo</b> or <b>maud</b> (lead); password{' '}
              <b className="nobr">{demo}</b>.
            </p>
          )
        }
      />
    </main>
  );
}

/** Laid over the page when the session ends in the middle of work: what was typed stays underneath. */
export function SignInAgain() {
  const [open, setOpen] = useState(false);
  useEffect(() => onSignedOut(() => setOpen(true)), []);
  return (
    <Dialog open={open} fullWidth maxWidth="xs">
      {open && (
        <SignInForm
          className="signbox"
          onSignedIn={() => setOpen(false)}
          head={
            <div>
              <h2 className="title">You are signed out</h2>
              <p>Nothing you typed is lost. Sign in, then press the button again.</p>
            </div>
          }
        />
      )}
    </Dialog>
  );
}
