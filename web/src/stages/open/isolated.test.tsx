import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { MemoryRouter } from 'react-router';
import { inApp } from '../../testing';
import { observed, UNFELT } from './gate';
import { Isolated } from './Isolated';

const someone = (id: number, name: string) => ({
  id,
  name,
  username: name.toLowerCase(),
  initials: name.slice(0, 2),
  role: 'technician',
  isolates_until: '2027-01-01',
});

beforeEach(() => {
  const lead = { person: { ...someone(1, 'Maud'), role: 'lead' }, depot: null };
  vi.stubGlobal(
    'fetch',
    async () => new Response(JSON.stringify(lead), { headers: { 'Content-Type': 'application/json' } }),
  );
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

it('offers those who may, and nobody is chosen beforehand', async () => {
  const chosen = vi.fn();
  inApp(
    <MemoryRouter>
      <Isolated people={[someone(3, 'Ines'), someone(4, 'Tomo')]} value="" onChange={chosen} />
    </MemoryRouter>,
  );
  expect(screen.queryByRole('button', { pressed: true })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'Tomo' }));
  expect(chosen).toHaveBeenCalledWith('4');
});

it('takes a list where there are many', async () => {
  const chosen = vi.fn();
  const many = Array.from({ length: 7 }, (_, n) => someone(n + 1, `Person ${n + 1}`));
  inApp(
    <MemoryRouter>
      <Isolated people={many} value="" onChange={chosen} />
    </MemoryRouter>,
  );
  await userEvent.selectOptions(screen.getByLabelText('Isolated by'), 'Person 6');
  expect(chosen).toHaveBeenCalledWith('6');
});

it('says what to do where nobody may', async () => {
  inApp(
    <MemoryRouter>
      <Isolated people={[]} value="" onChange={vi.fn()} />
    </MemoryRouter>,
  );
  expect(await screen.findByRole('link', { name: /Say who may/ })).toHaveProperty('pathname', '/people');
  expect(screen.getByRole('note').textContent).toContain('Hands off');
});

it.each([
  ['', 'Who isolated it?'],
  ['Nils Aune', 'Who isolated it?'], // as a draft of before has it
])('a draft that says “%s” is asked again', (isolatedBy, said) => {
  const asked = [{ ready: 'isolated' as const, name: 'High voltage isolated' }];
  const draft = { ...UNFELT, held: 'yes' as const, soft: 'yes' as const, ready: ['isolated' as const], isolatedBy };
  expect(observed(draft, asked, 'metric')).toBe(said);
  expect(observed({ ...draft, isolatedBy: '4' }, asked, 'metric')).toMatchObject({ facts: { isolated_by_id: 4 } });
});
