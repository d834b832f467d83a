import { useEffect } from 'react';

const BURST_MS = 50; // a barcode reader types faster than any hand
const LEAST = 3;

/** What a scanned code names: a fleet number as it is, or the last word of an address printed on a label. */
export function scanned(code: string): string {
  const text = code.trim();
  const address = /^https?:\/\/[^/]+(\/.*)$/.exec(text);
  return address?.[1] ?? text;
}

interface Burst {
  text: string;
  last: number;
  field: HTMLInputElement | HTMLTextAreaElement | null;
  before: string;
}

/** Put back what stood in a field before the burst fell into it. */
function restore(burst: Burst): void {
  const { field, before } = burst;
  if (!field || field.value === before) return;
  const proto = field instanceof HTMLTextAreaElement ? HTMLTextAreaElement.prototype : HTMLInputElement.prototype;
  Object.getOwnPropertyDescriptor(proto, 'value')?.set?.call(field, before);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

const fieldOf = (target: EventTarget | null) =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement ? target : null;

/** A field that asks for words, or for a password: what falls into it stays in it. The finder asks for a scan by name. */
function keepsScan(field: Burst['field']): boolean {
  if (!field || field.readOnly || field.disabled || field.dataset.scan !== undefined) return false;
  if (field instanceof HTMLTextAreaElement) return true;
  const asksNumber =
    field.inputMode === 'decimal' || field.inputMode === 'numeric' || field.dataset.number !== undefined;
  return !asksNumber && !['checkbox', 'radio', 'button', 'number'].includes(field.type);
}

/**
 * A burst faster than 50 ms per key, closed by Enter, is a scan; its closing Enter presses nothing and submits no form.
 * It goes to `onScan`, and a number field keeps its value. In a field that asks for words it stays where it fell; of a
 * password field, and on a page that nobody is signed in on (`on` false), nothing is ever taken.
 */
export function useScan(onScan: (code: string) => void, on = true): void {
  useEffect(() => {
    if (!on) return;
    let burst: Burst | null = null;
    const onKey = (event: KeyboardEvent) => {
      const fast = burst !== null && event.timeStamp - burst.last < BURST_MS;
      if (event.key === 'Enter' && burst && fast && burst.text.length >= LEAST) {
        event.preventDefault();
        event.stopPropagation();
        const done = burst;
        burst = null;
        if (keepsScan(done.field)) return;
        restore(done);
        onScan(scanned(done.text));
        return;
      }
      if (event.key === 'Shift') return; // capitals of a scanned code
      if (event.key.length !== 1 || event.ctrlKey || event.metaKey || event.altKey) {
        burst = null;
        return;
      }
      if (burst && fast) {
        burst = { ...burst, text: burst.text + event.key, last: event.timeStamp };
        return;
      }
      const field = fieldOf(event.target);
      burst = { text: event.key, last: event.timeStamp, field, before: field?.value ?? '' };
    };
    window.addEventListener('keydown', onKey, true);
    return () => window.removeEventListener('keydown', onKey, true);
  }, [onScan, on]);
}
