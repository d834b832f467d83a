import type { ReactNode } from 'react';

interface Props {
  which: string;
  allowed?: string;
  todo?: string;
  children?: ReactNode;
}

/** A value that cannot be, in words beside it: which value, what is allowed, what to do. Never a toast. */
export function Refusal({ which, allowed, todo, children }: Props) {
  return (
    <div className="refusal" role="alert">
      <b>{which}</b> {allowed && <span>{allowed} </span>}
      {todo && <span>{todo}</span>}
      {children && <div>{children}</div>}
    </div>
  );
}
