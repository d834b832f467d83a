import { useQuery } from '@tanstack/react-query';
import { Navigate, useLocation } from 'react-router';
import { carryOver, isLocal } from './became';
import { becameOf } from './store';

/** From a page that has this tablet's own number in its address to the one that the depot gave, once it has. */
export function Became() {
  const { pathname, search } = useLocation();
  const found = /^\/(loops|machines)\/(\d+)(.*)$/.exec(pathname);
  const own = found ? Number(found[2]) : 0;
  const became = useQuery({
    queryKey: ['became', own],
    queryFn: async () => {
      const became = (await becameOf(own)) ?? null;
      if (became !== null) carryOver(own, became);
      return became;
    },
    enabled: isLocal(own),
    staleTime: 0,
  }).data;
  if (!found || !became) return null;
  return <Navigate replace to={`/${found[1]}/${became}${found[3]}${search}`} />;
}
