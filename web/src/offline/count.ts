import { bayNow, tell } from './state';
import { keptKit, photos, waiting } from './store';

/** Count what waits, for the line on every page. */
export async function count(): Promise<void> {
  const [rows, pictures, kit] = [await waiting(), await photos(), await keptKit()];
  const { me } = bayNow();
  const mine = ({ person }: { person: number }) => me === null || person === me;
  const all = [...rows, ...pictures];
  tell({
    waiting: all.length,
    others: all.filter((one) => !mine(one)).length,
    asking: rows.filter((row) => row.state === 'asks' && mine(row)).length,
    signed: rows.filter((row) => JSON.stringify(row.body).includes('"kind":"signed_off"')).length,
    kitAt: kit?.madeAt ?? null,
  });
}
