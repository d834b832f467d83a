import { useSearchParams } from 'react-router';

export type Doing = 'read' | 'open' | 'correct' | 'look';

/** What is done at the proof: kept in the address, since every entry begins the sheet again. */
export function useDoing(): [Doing, (doing: Doing) => void] {
  const [params, setParams] = useSearchParams();
  const asked = params.get('do');
  const doing: Doing = asked === 'correct' || asked === 'look' || asked === 'open' ? asked : 'read';
  return [doing, (next) => setParams(next === 'read' ? {} : { do: next }, { replace: true })];
}
