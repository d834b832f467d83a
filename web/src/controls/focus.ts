import { useEffect, useRef } from 'react';

const FIELDS = 'input:not([type=hidden]):not([type=file]), textarea';
const visible = (element: HTMLElement): boolean => element.getClientRects().length > 0;

const focus = (element: HTMLElement | null | undefined): boolean => {
  element?.focus();
  return element !== null && element !== undefined && document.activeElement === element;
};

/** Put the cursor into a field of the sheet, once it is drawn. */
export const focusField = (name: string): void => {
  requestAnimationFrame(() => focus(document.querySelector<HTMLElement>(`#work input[name="${name}"]`)));
};

/** The heading of what is on show, so that a screen reader begins there. */
export function focusHeading(): void {
  const heading = document.querySelector<HTMLElement>('.headline h1, .boardhead h1, #work h1');
  if (!heading) return;
  heading.tabIndex = -1;
  heading.focus({ preventScroll: true });
}

/**
 * A sheet that comes up after an act takes the focus: its first field, where typing is next, else its heading. Where somebody
 * has the focus elsewhere it stays there.
 */
export function useSheetFocus(firstField: string | undefined): void {
  const field = useRef(firstField);
  useEffect(() => {
    const lost = document.activeElement === null || document.activeElement === document.body;
    if (!lost) return;
    const input = field.current ? document.querySelector<HTMLElement>(`#work input[name="${field.current}"]`) : null;
    if (!focus(input)) focusHeading();
  }, []);
}

/** Enter in a field of a sheet goes to its next field, and from the last one to the go plate, which it does not press. */
export function useNextField(): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const from = event.target;
      if (event.key !== 'Enter' || event.defaultPrevented || !(from instanceof HTMLInputElement)) return;
      const sheet = from.closest('#work');
      if (!sheet || from.closest('form, [role=dialog], .MuiDataGrid-root') || from.type === 'search') return;
      event.preventDefault();
      const fields = [...sheet.querySelectorAll<HTMLElement>(FIELDS)].filter(visible);
      const next = fields[fields.indexOf(from) + 1];
      if (!focus(next)) focus(document.querySelector<HTMLElement>('[data-testid=go]'));
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, []);
}

const ASKED = [
  '.refused input, [aria-invalid=true]',
  '.MuiToggleButtonGroup-root:not(:has([aria-pressed=true])) button, .ready [role=checkbox][aria-checked=false], ' +
    '.closing [role=checkbox][aria-checked=false], .runwatch [role=checkbox][aria-checked=false], ' +
    '[role=radiogroup]:not(:has([aria-checked=true])) [role=radio], .asked input:placeholder-shown, .huge input',
  'input',
];

/** Where a plate that waits sends whoever presses it: the field that is wrong, else the first that is not answered. */
export function focusAsked(selector: string | undefined): void {
  const scope = document.querySelector('[role=dialog] .editfields') ?? document.querySelector('#work');
  for (const each of selector ? [ASKED[0] ?? '', selector, ...ASKED.slice(1)] : ASKED) {
    const found = [...(scope?.querySelectorAll<HTMLElement>(each) ?? [])].find(visible);
    if (found) {
      found.scrollIntoView({ block: 'center' });
      found.focus();
      return;
    }
  }
}
