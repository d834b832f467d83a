import { tell } from './state';
import { keptKit, photos, waiting } from './store';

/** Count what waits, for the line on every page. */
export async function count(): Promise<void> {
  const [rows, pictures, kit] = [await waiting(), await photos(), await keptKit()];
  tell({
    waiting: rows.length + pictures.length,
    asking: rows.filter((row) => row.state === 'asks').length,
    signed: rows.filter((row) => JSON.stringify(row.body).includes('"kind":"signed_off"')).length,
    kitAt: kit?.madeAt ?? null,
  });
}
