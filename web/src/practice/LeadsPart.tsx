import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { depotApi, type Refusal as RefusalError, unwrap } from '../api/client';
import { Picker } from '../controls/Picker';
import { Refusal } from '../controls/Refusal';
import { type Practice, practiceOptions } from './queries';

const WORK_LABEL = { high_voltage: 'Before high-voltage loops', cleaner: 'Before cleaners' } as const;
const NONE = '';

/** What a lead decides: which lesson is asked for before which work, and lessons of the depot's own. */
export function LeadsPart({ practice }: { practice: Practice }) {
  const client = useQueryClient();
  const fresh = (data: Practice) => client.setQueryData(practiceOptions.queryKey, data);
  const ask = useMutation<Practice, RefusalError, { work: Practice['asked'][number]['work']; lesson: string | null }>({
    mutationFn: ({ work, lesson }) =>
      unwrap(depotApi.PUT('/api/practice/asked/{work}', { params: { path: { work } }, body: { lesson } })),
    onSuccess: fresh,
  });
  const options = [
    { value: NONE, label: 'no lesson' },
    ...practice.lessons.map((row) => ({ value: row.key, label: row.name })),
  ];
  return (
    <>
      <section aria-label="Asked for">
        <h2>Ask for a lesson</h2>
        <p>Whoever has not reached its aims is sent to practice first.</p>
        <div className="row">
          {practice.asked.map((row) => (
            <Picker
              key={row.work}
              label={WORK_LABEL[row.work]}
              value={row.lesson ?? NONE}
              options={options}
              onChange={(value) => ask.mutate({ work: row.work, lesson: value === NONE ? null : value })}
            />
          ))}
        </div>
        {ask.error && <Refusal which="Not changed." allowed={ask.error.message} />}
      </section>
      <OwnLessons practice={practice} fresh={fresh} />
    </>
  );
}

function OwnLessons({ practice, fresh }: { practice: Practice; fresh: (data: Practice) => void }) {
  const id = useId();
  const [text, setText] = useState('');
  const add = useMutation<Practice, RefusalError, string>({
    mutationFn: (given) => unwrap(depotApi.POST('/api/practice/lessons', { body: { text: given } })),
    onSuccess: (data) => {
      fresh(data);
      setText('');
    },
  });
  const begin = useMutation<{ text: string }, RefusalError, string>({
    mutationFn: (key) => unwrap(depotApi.GET('/api/practice/lessons/{key}', { params: { path: { key } } })),
    onSuccess: (got) => setText(got.text),
  });
  const remove = useMutation<Practice, RefusalError, string>({
    mutationFn: (key) => unwrap(depotApi.DELETE('/api/practice/lessons/{key}', { params: { path: { key } } })),
    onSuccess: fresh,
  });
  const own = practice.lessons.filter((row) => row.own);
  return (
    <section aria-label="Own lessons">
      <h2>Lessons of this depot</h2>
      {own.map((row) => (
        <p key={row.key} className="runrow">
          <b>{row.name}</b>
          <ButtonBase className="key small" onClick={() => remove.mutate(row.key)}>
            Remove
          </ButtonBase>
        </p>
      ))}
      <details>
        <summary>Write one</summary>
        <Picker
          label="Begin with the text of"
          value={NONE}
          options={[
            { value: NONE, label: 'choose a lesson' },
            ...practice.lessons.map((row) => ({ value: row.key, label: row.name })),
          ]}
          onChange={(key) => key !== NONE && begin.mutate(key)}
        />
        <label className="lbl" htmlFor={id}>
          Its text (TOML), with a key of its own
        </label>
        <textarea
          id={id}
          name="lesson-text"
          className="lessontext"
          spellCheck={false}
          rows={14}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {add.error && <Refusal which="Not added." allowed={add.error.message} />}
        <ButtonBase
          className="key"
          aria-disabled={text.trim() === '' || add.isPending}
          onClick={() => text.trim() !== '' && !add.isPending && add.mutate(text)}
        >
          Add the lesson
        </ButtonBase>
      </details>
    </section>
  );
}
