import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { depotApi, unwrap } from '../api/client';
import { practiceOptions, useBegin } from './queries';
import './practice.css';

/** Offered once, at the first sign-in; whoever has seen it is not asked again. */
export function FirstLesson() {
  const practice = useQuery({ ...practiceOptions, staleTime: Infinity });
  const [gone, leave] = useState(false);
  const begin = useBegin();
  const offer = practice.data?.offer === true;
  const { mutate: seen } = useMutation({ mutationFn: () => unwrap(depotApi.POST('/api/practice/offered')) });
  useEffect(() => {
    if (offer) seen();
  }, [offer, seen]);
  const first = practice.data?.lessons[0];
  if (!offer || gone || !first) return null;
  return (
    <section className="firstlesson" aria-label="Your first lesson">
      <p>
        <b>New here?</b> Do a {first.name.toLowerCase()} on a practice machine that answers. Nothing of it is recorded
        at the depot.
      </p>
      <span className="keys">
        <ButtonBase
          className="key small"
          aria-disabled={begin.isPending}
          onClick={() => !begin.isPending && begin.mutate({ lesson: first.key })}
        >
          Begin the first lesson
        </ButtonBase>
        <ButtonBase className="key small" onClick={() => leave(true)}>
          Not now
        </ButtonBase>
      </span>
    </section>
  );
}
