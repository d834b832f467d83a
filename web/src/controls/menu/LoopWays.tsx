import { NavLink } from 'react-router';

interface Props {
  loopId: number;
  machineId: number;
}

/** The pages about one loop and its machine, each a way to the others. */
export function LoopWays({ loopId, machineId }: Props) {
  const ways: [string, string][] = [
    [`/loops/${loopId}`, 'Job'],
    [`/loops/${loopId}/check`, 'Level check'],
    [`/loops/${loopId}/history`, 'History'],
    [`/loops/${loopId}/record`, 'Record'],
    [`/loops/${loopId}/sheet`, 'Job sheet'],
    [`/loops/${loopId}/labels`, 'Label'],
    [`/readings?loop=${loopId}`, 'Readings'],
    [`/machines/${machineId}`, 'Details'],
  ];
  return (
    <nav className="loopways" aria-label="About this loop">
      {ways.map(([to, name]) => (
        <NavLink key={to} to={to} end>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
