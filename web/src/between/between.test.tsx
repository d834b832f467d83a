import { cleanup, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { afterEach, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { inApp, saying, plain } from '../testing';
import { safeText } from '../units/units';
import { sayIn } from '../language/say';
import { FrostLine, DueKeys } from './ChecksDue';

afterEach(cleanup);
const machine = { id: 1, fleet_number: 'S-12', kind: 'Shuttle', description: '', year: null };
const row = (part: Partial<Schemas['ComingBack']> = {}): Schemas['ComingBack'] => ({
  machine,
  loop_id: 4,
  loop_name: 'Engine loop',
  why: 'first',
  said: saying('Cold level.'),
  due_on: '2026-11-27',
  overdue: false,
  today: false,
  with_reading: false,
  ...part,
});
const shown = (inside: React.ReactNode) => inApp(<MemoryRouter>{inside}</MemoryRouter>);

describe('what is due', () => {
  it('stands over the strips of a phone only when it is due by today', () => {
    shown(<DueKeys rows={[row(), row({ today: true, loop_id: 9 }), row({ why: null, overdue: true, loop_id: 6 })]} />);
    expect(screen.getAllByRole('link').map((link) => link.getAttribute('href'))).toEqual(['/loops/9/check']);
  });
});

describe('frost', () => {
  const frost = { season: 'frost' as const, starts_on: '2026-09-28', machines: 1, loud: 1 };

  it('is one line, and none where nothing is asked', () => {
    shown(<FrostLine frost={frost} />);
    expect(screen.getByRole('link').textContent).toBe('Frost: 1 loop not protected');
    cleanup();
    shown(<FrostLine frost={{ ...frost, machines: 0 }} />);
    expect(screen.queryByRole('link')).toBeNull();
  });

  it('a claim of protection is never rounded to the cold side', () => {
    expect(plain(safeText(-37.6, 'metric'))).toBe('−37 °C');
    expect(plain(safeText(-38, 'metric'))).toBe('−38 °C');
    expect(plain(safeText(-37.6, 'us'))).toBe('−35 °F');
    const said = {
      code: 'x',
      sentence: '',
      template: 'protects to {safe_c:0}, reads {freeze_c:0}',
      values: { safe_c: -37.6, freeze_c: -37.6 },
    };
    expect(plain(sayIn(said, 'metric'))).toBe('protects to −37 °C, reads −38 °C');
  });
});
