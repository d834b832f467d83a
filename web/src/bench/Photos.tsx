import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useId, useRef } from 'react';
import { v4 as uuid } from 'uuid';
import { addPhoto, type Refusal as RefusalError, type Schemas } from '../api/client';
import { benchOptions } from '../api/queries';
import { Refusal } from '../controls/Refusal';
import './photos.css';

interface Props {
  loopId: number;
  entryId: string;
  photos: Schemas['PhotoOut'][];
  /** Between jobs nothing is added. */
  open: boolean;
  what: string;
}

const MOST_MB = 8;

/** Photos of one finding, and the key that adds one; the finding is recorded first, a photo may follow. */
export function Photos({ loopId, entryId, photos, open, what }: Props) {
  const id = useId();
  const client = useQueryClient();
  const sent = useRef<{ file: File; id: string } | null>(null); // a second try keeps its id
  const add = useMutation<Schemas['Bench'], RefusalError, File>({
    mutationFn: (file) => {
      if (sent.current?.file !== file) sent.current = { file, id: uuid() };
      return addPhoto(loopId, sent.current.id, entryId, file);
    },
    onSuccess: (bench) => client.setQueryData(benchOptions(loopId).queryKey, bench),
  });
  const mine = photos.filter((photo) => photo.entry_id === entryId);
  const retry = add.isError && (add.error.status === 0 || add.error.status >= 500);
  return (
    <span className="photos">
      {mine.map((photo) => (
        <a key={photo.sha256} href={`/api/photos/${photo.sha256}`} target="_blank" rel="noreferrer">
          <img src={`/api/photos/${photo.sha256}`} alt={`Photo, ${what}`} loading="lazy" />
        </a>
      ))}
      {open && (
        <>
          <label className="key small photokey" htmlFor={id} aria-busy={add.isPending}>
            {add.isPending ? 'Sending' : 'Photo'}
          </label>
          <input
            id={id}
            className="visually-hidden"
            type="file"
            accept="image/jpeg,image/png,image/heic,image/heif"
            capture="environment"
            disabled={add.isPending}
            aria-label={`Photo, ${what}`}
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = '';
              if (file) add.mutate(file);
            }}
          />
        </>
      )}
      {add.isError && (
        <Refusal
          which="No photo was added."
          allowed={add.error.message}
          todo={retry ? 'Press Photo again.' : `JPEG, PNG or HEIC, at most ${MOST_MB} MB.`}
        />
      )}
    </span>
  );
}
