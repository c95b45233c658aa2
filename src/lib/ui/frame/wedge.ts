const typable = (element: Element | null): element is HTMLInputElement | HTMLTextAreaElement =>
  (element instanceof HTMLInputElement &&
    /^(text|search|)$/.test(element.type) &&
    !element.disabled &&
    !element.readOnly) ||
  (element instanceof HTMLTextAreaElement && !element.disabled);

/**
 * Types a text as a keyboard-wedge scanner does: character by character into the field that has the
 * focus, or else into the scan field, and Enter at the end.
 */
export async function typeLikeWedge(text: string, focused: Element | null): Promise<void> {
  const field =
    typable(focused) && focused.isConnected
      ? focused
      : document.querySelector<HTMLInputElement>('[role=search] input');
  if (!field) return;
  field.focus();
  field.select();
  for (const [index, character] of [...text].entries()) {
    // The first character replaces what was selected, as typing does.
    if (index === 0)
      field.setRangeText(character, field.selectionStart ?? 0, field.selectionEnd ?? 0, 'end');
    else field.setRangeText(character, field.value.length, field.value.length, 'end');
    field.dispatchEvent(
      new InputEvent('input', { bubbles: true, data: character, inputType: 'insertText' })
    );
  }
  await new Promise((done) => setTimeout(done, 30));
  field.dispatchEvent(
    new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true })
  );
}
