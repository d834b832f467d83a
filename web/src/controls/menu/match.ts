import type { Schemas } from '../../api/client';
import { chemistry, LOOP_SIGN, STAGE } from '../../language/names';

type Row = Schemas['LoopRow'];

/** Everything a loop can be found by: number, name, loop, coolant, state. */
function wordsOf({ machine, loop_name, line }: Row): string {
  const number = machine.fleet_number;
  const parts = [number, number.replaceAll('-', ''), machine.kind, machine.description, machine.owner_name, loop_name];
  if (line) {
    parts.push(chemistry(line.family, line.base), ...line.signs.map((sign) => LOOP_SIGN[sign]));
    if (line.stage) parts.push(STAGE[line.stage]);
    if (line.asked) parts.push(line.asked.check ? 'level check' : 'service');
  } else parts.push('broken');
  return parts.join(' ').toLowerCase();
}

/** The loops that have every word in what is known of them; without a word, all. */
export function matching(rows: readonly Row[], typed: string): Row[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return rows.filter((row) => {
    const text = wordsOf(row);
    return words.every((word) => text.includes(word));
  });
}
