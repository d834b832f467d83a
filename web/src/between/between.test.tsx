import { cleanup, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { afterEach, describe, expect, it } from 'vitest';
import { inApp, plain } from '../testing';
import { safeText } from '../units/units';
import { sayIn } from '../language/say';
import { FrostLine } from './ChecksDue';

afterEach(cleanup);
const shown = (inside: React.ReactNode) => inApp(<MemoryRouter>{inside}</MemoryRouter>);

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
