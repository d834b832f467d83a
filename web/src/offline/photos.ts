import { answerHere, sendInBackground } from './core';
import { count } from './count';
import { keepPhoto, keptKit } from './store';

/** A photo without a network: its file is kept and sent later; the loop's page as it stands is the answer. */
export async function photoHere(request: Request): Promise<Response | null> {
  const url = new URL(request.url);
  const found = /^\/api\/loops\/(\d+)\/photos$/.exec(url.pathname);
  if (request.method !== 'POST' || !found) return null;
  const [form, kit] = [await request.formData(), await keptKit()];
  const file = form.get('file');
  if (!kit || !(file instanceof Blob)) return null;
  await keepPhoto({
    id: String(form.get('id')),
    entryId: String(form.get('entry_id')),
    loopId: Number(found[1]),
    file,
    person: kit.person,
  });
  await count();
  void sendInBackground();
  return answerHere(new Request(`${url.origin}/api/loops/${found[1]}`));
}
