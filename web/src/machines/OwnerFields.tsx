import { TextField } from '../controls/TextField';

/** Whom a machine belongs to, as it is typed; all empty: the depot's own. */
export interface OwnerTyped {
  name: string;
  telephone: string;
  email: string;
}

export const NO_OWNER: OwnerTyped = { name: '', telephone: '', email: '' };

/** As it is sent: null where nothing was typed. */
export const ownerIn = (owner: OwnerTyped): OwnerTyped | null =>
  owner.name.trim() || owner.telephone.trim() || owner.email.trim() ? owner : null;

interface Props {
  owner: OwnerTyped;
  refused: (name: string) => string | undefined;
  onChange: (owner: OwnerTyped) => void;
}

/** Name, telephone, e-mail of a customer; a machine of the depot's own has none. */
export function OwnerFields({ owner, refused, onChange }: Props) {
  return (
    <>
      <TextField
        name="owner"
        label="Owner, if a customer’s"
        value={owner.name}
        max={120}
        wide
        refused={refused('owner.name')}
        onChange={(name) => onChange({ ...owner, name })}
      />
      {(owner.name !== '' || owner.telephone !== '' || owner.email !== '') && (
        <>
          <TextField
            name="telephone"
            label="Telephone"
            value={owner.telephone}
            wide
            max={40}
            refused={refused('owner.telephone')}
            onChange={(telephone) => onChange({ ...owner, telephone })}
          />
          <TextField
            name="email"
            label="E-mail"
            value={owner.email}
            wide
            max={254}
            refused={refused('owner.email')}
            onChange={(email) => onChange({ ...owner, email })}
          />
        </>
      )}
    </>
  );
}
