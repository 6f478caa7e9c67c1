// Which keys are meant for the control that has the focus, and which for the stage.

/**
 * Fields in which letters are text. Switches, radio buttons and sliders are inputs too, but letters pressed on them are
 * meant for the stage.
 */
const takesText = (target: HTMLElement): boolean => {
  if (target.isContentEditable || target.tagName === 'TEXTAREA' || target.tagName === 'SELECT') return true;
  return target instanceof HTMLInputElement && !['radio', 'checkbox', 'range', 'button'].includes(target.type);
};
/** What arrow keys move in, itself. */
const ARROWED = '[role=radiogroup], [role=toolbar], [role=tablist], [role=menu], [role=listbox], [data-arrows=own]';
const PRESSED = 'button, a[href], summary, input, [role=button], [role=menuitem], [role=tab], [role=option]';

/** A key pressed on a control that does something with it itself: it is no command. */
export function goesToItsTarget({ target, key }: KeyboardEvent): boolean {
  if (!(target instanceof HTMLElement)) return false;
  // what is asked stands before everything else
  if (takesText(target) || target.closest('[role=dialog]')) return true;
  // one who goes from control to control works them by keys; after a click the same keys are meant for the picture
  if (!target.matches(':focus-visible')) return false;
  if (key.startsWith('Arrow') || key === 'Home' || key === 'End') return target.closest(ARROWED) !== null;
  return (key === ' ' || key === 'Enter') && target.matches(PRESSED);
}
