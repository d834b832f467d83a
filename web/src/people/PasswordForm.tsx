import ButtonBase from '@mui/material/ButtonBase';
import { type FormEvent, useState } from 'react';
import { Refusal } from '../controls/Refusal';
import { PasswordField } from '../controls/PasswordField';
import { useOwnPassword } from './useAccounts';

const LEAST = 10;

/** One's own password: the present one, the new one twice. */
export function PasswordForm() {
  const [old, setOld] = useState('');
  const [fresh, setFresh] = useState('');
  const [again, setAgain] = useState('');
  const change = useOwnPassword();
  const at = (field: string) => (change.error?.field === field ? change.error.message : undefined);
  const differs = again !== '' && again !== fresh;
  const ready = old !== '' && fresh.length >= LEAST && again === fresh && !change.isPending;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!ready) return;
    change.mutate(
      { old, new: fresh },
      {
        onSuccess: () => {
          setOld('');
          setFresh('');
          setAgain('');
        },
      },
    );
  };
  return (
    <form onSubmit={submit} className="accountform">
      <PasswordField
        name="old"
        label="Present password"
        kept="current-password"
        value={old}
        refused={at('old')}
        onChange={setOld}
      />
      <PasswordField
        name="new"
        label={`New password, ${LEAST} characters or more`}
        kept="new-password"
        value={fresh}
        refused={at('new')}
        onChange={setFresh}
      />
      <PasswordField
        name="again"
        label="New password, again"
        kept="new-password"
        value={again}
        refused={differs ? 'The two new passwords differ.' : undefined}
        onChange={setAgain}
      />
      {change.error && !at('old') && !at('new') && <Refusal which="Not changed." allowed={change.error.message} />}
      {change.isSuccess && <p role="status">Password changed. Your other devices are signed out.</p>}
      <ButtonBase className="key" type="submit" aria-disabled={!ready}>
        Change password
      </ButtonBase>
    </form>
  );
}
