import { useQuery } from '@tanstack/react-query';
import { sessionOptions } from './queries';

/** The depot somebody is signed in to. */
export const useDepot = () => useQuery(sessionOptions).data?.depot ?? null;
