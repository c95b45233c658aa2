const OF_DIALOG = '.bx--modal-footer .bx--btn--primary, .bx--modal-footer .bx--btn--danger';
const OF_SCREEN = 'main button.act.main';

/**
 * Presses the filled button of the dialog that lies over the screen, or else of the screen, from
 * wherever the focus is. Of several that could be meant none is pressed.
 * @returns whether there was one
 */
export function pressMainButton(): boolean {
  const dialog = document.querySelector('.bx--modal.is-visible');
  const buttons = dialog
    ? dialog.querySelectorAll<HTMLButtonElement>(OF_DIALOG)
    : document.querySelectorAll<HTMLButtonElement>(OF_SCREEN);
  const able = [...buttons].filter((one) => !one.disabled && one.offsetParent !== null);
  if (able.length !== 1) return false;
  able[0]!.click();
  return true;
}
