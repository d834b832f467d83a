import { useQuery } from '@tanstack/react-query';
import { Navigate, useParams } from 'react-router';
import { ofOptions } from '../api/queries';
import { Waiting } from '../controls/menu/Page';
import { NotHere } from '../controls/NotHere';

/** From what a label or an archive calls a thing to the page that shows it. */
export default function OfPage() {
  const { uuid = '' } = useParams();
  const of = useQuery(ofOptions(uuid));
  if (of.data) return <Navigate replace to={of.data.page} />;
  if (of.isError)
    return (
      <NotHere head="Nothing of this depot has that label." text={of.error.message} retry={() => void of.refetch()} />
    );
  return <Waiting title="Label" />;
}
