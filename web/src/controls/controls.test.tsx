import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode, useState } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import type { Typed } from '../units/parse';
import { UnitsProvider, useUnits } from '../units/UnitsContext';
import { AnswerNumber } from './AnswerNumber';
import { Check } from './Check';
import { CountStepper } from './CountStepper';
import { GoPlate } from './GoPlate';
import { QuantityField } from './QuantityField';
import { Segment } from './Segment';
import { StageLine } from './StageLine';
import { Stepper } from './Stepper';

beforeEach(() => localStorage.clear());
afterEach(cleanup);

function ToUs({ children }: { children: ReactNode }) {
  const { setSystem } = useUnits();
  return (
    <>
      <button onClick={() => setSystem('us')}>US</button>
      <button onClick={() => setSystem('metric')}>metric</button>
      {children}
    </>
  );
}

function Held({ kind, first, step }: { kind: 'volume' | 'temperature'; first: Typed; step?: number }) {
  const [typed, setTyped] = useState(first);
  return (
    <>
      {step === undefined ? (
        <QuantityField label="Drained" name="x" kind={kind} typed={typed} onChange={setTyped} />
      ) : (
        <Stepper label="Target" name="x" kind={kind} typed={typed} onChange={setTyped} step={step} start={-20} />
      )}
      <output>{JSON.stringify(typed)}</output>
    </>
  );
}

const show = (inside: ReactNode) =>
  render(
    <UnitsProvider>
      <ToUs>{inside}</ToUs>
    </UnitsProvider>,
  );
const box = () => screen.getByRole<HTMLInputElement>('textbox');

describe('QuantityField', () => {
  it('restores what was typed when units are switched there and back', async () => {
    show(<Held kind="volume" first={{ text: '', unit: 'l' }} />);
    await userEvent.type(box(), '24,50');
    await userEvent.click(screen.getByText('US'));
    expect(box().value).toBe('25.9');
    await userEvent.click(screen.getByText('metric'));
    expect(box().value).toBe('24,50');
  });

  it('says in words what cannot be read, beside the field, and keeps it', async () => {
    show(<Held kind="volume" first={{ text: '', unit: 'l' }} />);
    await userEvent.type(box(), '4 buckets');
    expect(screen.getByRole('alert').textContent).toContain(
      'Allowed: L, ml, US fl oz, US qt, US gal, imp fl oz, imp gal',
    );
    expect(box().value).toBe('4 buckets');
    expect(box().getAttribute('aria-invalid')).toBe('true');
  });

  it('shows the server’s refusal only when the text itself is fine', () => {
    const { rerender } = show(<Field text="70" />);
    expect(screen.getByRole('alert').textContent).toBe('More than inside. ');
    rerender(
      <UnitsProvider>
        <Field text="seventy" />
      </UnitsProvider>,
    );
    expect(screen.getByRole('alert').textContent).toContain('Cannot read');
  });
});

const Field = ({ text }: { text: string }) => (
  <QuantityField
    label="Drained"
    name="x"
    kind="volume"
    typed={{ text, unit: 'l' }}
    refused="More than inside."
    onChange={() => undefined}
  />
);

describe('Stepper', () => {
  it('steps by keys and by plates, in the unit on show', async () => {
    show(<Held kind="temperature" first={{ text: '-45', unit: 'degC' }} step={1} />);
    fireEvent.keyDown(box(), { key: 'ArrowUp' });
    expect(box().value).toBe('\u221244');
    fireEvent.keyDown(box(), { key: 'PageDown' });
    expect(box().value).toBe('\u221249');
    await userEvent.click(screen.getByLabelText('Target: more'));
    expect(box().value).toBe('\u221248');
    await userEvent.click(screen.getByText('US'));
    expect(box().value).toBe('\u221254.4');
    fireEvent.keyDown(box(), { key: 'ArrowUp' });
    expect(box().value).toBe('\u221253');
    expect(screen.getByRole('status').textContent).toBe(JSON.stringify({ text: '\u221253', unit: 'degF' }));
  });

  it('starts from a sensible place when nothing is typed', () => {
    show(<Held kind="temperature" first={{ text: '', unit: 'degC' }} step={1} />);
    fireEvent.keyDown(box(), { key: 'ArrowDown' });
    expect(box().value).toBe('\u221220');
  });

  it('does not step below the least that is allowed, and says so of what was typed', async () => {
    const onChange = vi.fn();
    const topped = (text: string) =>
      render(
        <UnitsProvider>
          <Stepper label="Topped up" name="x" kind="volume" typed={{ text, unit: 'l' }} low={0} onChange={onChange} />
        </UnitsProvider>,
      );
    topped('0');
    await userEvent.click(screen.getByLabelText('Topped up: less'));
    expect(onChange).not.toHaveBeenCalled();
    cleanup();
    topped('-2');
    expect(screen.getByRole('alert').textContent).toContain('0 L or more');
  });

  it('leaves other keys alone', () => {
    show(<Held kind="temperature" first={{ text: '-45', unit: 'degC' }} step={1} />);
    fireEvent.keyDown(box(), { key: 'Enter' });
    expect(box().value).toBe('-45');
  });
});

describe('GoPlate', () => {
  it('presses once it is ready, and says what it waits for until then', async () => {
    const press = vi.fn();
    const { rerender } = render(<GoPlate act="Accept this mix" then="Fill" waits="Set the target" onPress={press} />);
    const plate = screen.getByTestId('go');
    await userEvent.click(plate);
    expect(press).not.toHaveBeenCalled();
    expect(plate.textContent).toContain('Set the target');
    expect(plate.getAttribute('aria-disabled')).toBe('true');
    rerender(<GoPlate act="Accept this mix" then="Fill" onPress={press} />);
    await userEvent.click(plate);
    expect(press).toHaveBeenCalledTimes(1);
    rerender(<GoPlate act="Accept this mix" then="Fill" busy onPress={press} />);
    await userEvent.click(plate);
    expect(press).toHaveBeenCalledTimes(1);
  });
});

describe('small controls', () => {
  it('a segment is never none', async () => {
    const change = vi.fn();
    const options = [
      { value: 'a', label: 'weighed' },
      { value: 'b', label: 'guessed' },
    ];
    render(<Segment label="How" value="a" options={options} onChange={change} />);
    await userEvent.click(screen.getByText('weighed'));
    expect(change).not.toHaveBeenCalled();
    await userEvent.click(screen.getByText('guessed'));
    expect(change).toHaveBeenCalledWith('b');
  });

  it('a check toggles and says so', async () => {
    const change = vi.fn();
    render(<Check label="At the mark" checked={false} onChange={change} />);
    expect(screen.getByRole('checkbox').getAttribute('aria-checked')).toBe('false');
    await userEvent.click(screen.getByRole('checkbox'));
    expect(change).toHaveBeenCalledWith(true);
  });

  it('a count stays within its bounds', async () => {
    const change = vi.fn();
    render(<CountStepper label="Rinses" name="r" value={0} most={1} onChange={change} />);
    await userEvent.click(screen.getByLabelText('Rinses: less'));
    expect(change).toHaveBeenLastCalledWith(0);
    await userEvent.click(screen.getByLabelText('Rinses: more'));
    expect(change).toHaveBeenLastCalledWith(1);
  });

  it('a big number carries its plus/minus in the unit on show', async () => {
    show(<AnswerNumber litres={18.3} spread={0.41} caption="concentrate" testId="n" />);
    expect(screen.getByTestId('n').textContent).toBe('18.3');
    expect(screen.getByText('±0.4')).toBeTruthy();
    await userEvent.click(screen.getByText('US'));
    expect(screen.getByTestId('n').textContent).toBe('19.3');
  });
});

describe('StageLine', () => {
  const row = (stage: Schemas['Stage'], status: Schemas['Status']): Schemas['StageState'] => ({
    stage,
    status,
    result: null,
  });
  const stages = [row('identify', 'done'), row('flush', 'choice'), row('drain', 'now'), row('mix', 'ahead')];

  it('offers buttons only for what is done, and for what is a choice', async () => {
    const look = vi.fn();
    show(<StageLine stages={stages} looking={null} onLook={look} />);
    const nav = screen.getByRole('navigation');
    expect(nav.querySelectorAll('button')).toHaveLength(2);
    await userEvent.click(screen.getByText('Identify'));
    expect(look).toHaveBeenCalledWith('identify');
    expect(nav.querySelector('[aria-current="step"]')?.textContent).toContain('Drain');
  });
});
