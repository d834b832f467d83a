import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { inApp, plain } from '../testing';
import { columnsOf, type LogRow, whereOf } from './columns';
import { ImportSheet } from './ImportSheet';
import { exportHref } from './readingsQuery';

afterEach(cleanup);

const row: LogRow = {
  id: 1,
  entry_id: 'e',
  taken_at: '2026-11-24T12:00:00Z',
  loop_id: 3,
  machine: 'T-21',
  loop: 'Engine loop',
  place: 'as_found',
  instrument_id: 2,
  instrument: 'Brix glass',
  scale: 'brix',
  steps: false,
  value: 34.4,
  zero: 0,
  sample_c: 18,
  edge: 'sharp',
  freeze_c: -31,
  at_least_c: null,
  glycol_mass_percent: 46,
  person: 'Tomo Reik',
  listed: true,
  flags: ['in_doubt'],
};
const shown = (field: string, of: Partial<LogRow> = {}, system: 'metric' | 'us' = 'metric') => {
  const column = columnsOf(system, 'Europe/Oslo').find((one) => one.field === field);
  const whole = { ...row, ...of };
  const value = (whole as unknown as Record<string, unknown>)[field] as never;
  const got = column?.valueGetter ? column.valueGetter(value, whole as never, column, null as never) : value;
  return column?.valueFormatter ? column.valueFormatter(got as never, whole as never, column, null as never) : got;
};

describe('the columns of the log', () => {
  it('show what was seen on its own scale and what it came to in the reader’s unit', () => {
    expect(plain(shown('value'))).toBe('34.4 Brix');
    expect(plain(shown('freeze_c'))).toBe('\u221231.0 °C');
    expect(plain(shown('freeze_c', {}, 'us'))).toBe('\u221223.8 °F'); // -31 x 1.8 + 32
    expect(plain(shown('value', { scale: null, value: -20 }))).toBe('\u221220.0 °C reported');
  });

  it('never show a value for steps', () => {
    const steps = { steps: true, value: 3, scale: 'freeze_ethylene' as const, freeze_c: null, at_least_c: -21 };
    expect(shown('value', steps)).toBe('3 steps');
    expect(plain(shown('freeze_c', steps))).toBe('at least \u221221 °C');
  });

  it('say why a reading may not be what it says, and where it comes from', () => {
    expect(shown('flags')).toBe('in doubt: zero was off, imported');
  });
});

describe('conditions', () => {
  it('ask nothing before they are filled in, and degrees in °C', () => {
    const item = { field: 'freeze_c', operator: '<', value: '-22' };
    expect(whereOf({ items: [{ field: 'machine', operator: 'contains' }] }, 'metric')).toEqual([]);
    expect(whereOf({ items: [item] }, 'metric')).toEqual(['freeze_c~<~-22']);
    expect(whereOf({ items: [item] }, 'us')).toEqual(['freeze_c~<~-30']);
    const day = { field: 'taken_at', operator: 'after', value: new Date(2026, 10, 4) };
    expect(whereOf({ items: [day] }, 'metric')).toEqual(['taken_at~after~2026-11-04']);
  });

  it('go with the file', () => {
    expect(exportHref('csv', [])).toBe('/api/readings/export/csv');
    expect(exportHref('json', ['freeze_c~<~-30'])).toBe('/api/readings/export/json?where=freeze_c%7E%3C%7E-30');
  });
});

describe('a file', () => {
  const report = { lines: 2, new: 1, known: 0, undone: 0, imported: 0, error_count: 0, errors: [], ignored: [] };
  const taken = [
    { heads: ['taken_at [ISO 8601]'], needed: true, what: 'when', choices: [] },
    { heads: ['value [scale]', 'value [degC]'], needed: true, what: 'what it read', choices: [] },
  ];
  const own = [
    { head: 'taken_at [ISO 8601]', first: '2026-11-04', guess: 'taken_at [ISO 8601]' },
    { head: 'Wert', first: '-36', guess: 'value [scale]' },
  ];
  /** Answers by address; what was sent to import is kept. */
  const answers = (file: object[], ...reports: object[]) => {
    const sent: FormData[] = [];
    vi.stubGlobal('fetch', async (request: Request) => {
      const path = new URL(request.url).pathname;
      if (path.endsWith('/columns')) return Response.json({ file, taken });
      if (path.endsWith('/imports')) return Response.json({ imports: [] });
      if (path.endsWith('/progress')) return Response.json({ done: 0.5 });
      sent.push(await request.formData());
      return Response.json(reports.shift() ?? {});
    });
    return sent;
  };
  const choose = () =>
    userEvent.upload(document.querySelector('input[type=file]') as HTMLInputElement, new File(['x'], 'a.csv'));

  it('is looked at first, and not taken with a line refused', async () => {
    const errors = [{ line: 3, column: 'machine', message: 'No machine.' }];
    const sent = answers(own, { ...report, error_count: 1, errors });
    inApp(<ImportSheet onDone={vi.fn()} />);
    await choose();
    await screen.findByText(/2 lines: 1 new, 0 known already, 1 refused/);
    expect(screen.getByText('line 3')).toBeTruthy();
    await userEvent.click(screen.getByTestId('go'));
    expect(sent.map((form) => form.get('dry_run'))).toEqual(['yes']);
  });

  it('is taken when no line is refused, under the id it was looked at', async () => {
    const sent = answers(own, { ...report, new: 2 }, { ...report, new: 2, imported: 2 });
    inApp(<ImportSheet onDone={vi.fn()} />);
    await choose();
    await waitFor(() => expect(screen.getByTestId('go').textContent).toContain('Import 2 readings'));
    await userEvent.click(screen.getByTestId('go'));
    await screen.findByText('2 readings imported');
    expect(sent.map((form) => form.get('dry_run'))).toEqual(['yes', 'no']);
    expect(sent[0]?.get('id')).toBe(sent[1]?.get('id'));
    expect(JSON.parse(String(sent[1]?.get('columns')))).toEqual({
      'taken_at [ISO 8601]': 'taken_at [ISO 8601]',
      Wert: 'value [scale]',
    });
  });

  it('with a column nobody knows is not looked at before somebody says what it is', async () => {
    const sent = answers([own[0] as object, { head: 'X', first: '7', guess: '' }], { ...report, new: 2 });
    inApp(<ImportSheet onDone={vi.fn()} />);
    await choose();
    await screen.findByText(/Say which column is value \[scale\]/);
    expect(screen.getByTestId('go').textContent).toContain('Match the columns');
    expect(sent).toEqual([]);
    await userEvent.selectOptions(screen.getByLabelText('X'), 'value [degC]');
    await waitFor(() => expect(screen.getByTestId('go').textContent).toContain('Import 2 readings'));
    expect(JSON.parse(String(sent[0]?.get('columns'))).X).toBe('value [degC]');
  });
});
