const TYPING = ['keydown', 'input', 'focusin'] as const;

/** How long nobody types before a dialog may come up by itself; a scanner's keys are far closer. */
export const PAUSE_MS = 600;

/**
 * Waits until nobody has typed for a moment. A dialog that nobody asked for takes the focus: in the
 * middle of a word, or of a scan, the rest of it would land in the dialog's field.
 * @param where what hears the typing: the document
 * @returns settles `PAUSE_MS` after the last key, input or change of field
 */
export function pauseInTyping(where: EventTarget): Promise<void> {
  return new Promise((paused) => {
    let timer = setTimeout(end, PAUSE_MS);
    function again(): void {
      clearTimeout(timer);
      timer = setTimeout(end, PAUSE_MS);
    }
    function end(): void {
      for (const kind of TYPING) where.removeEventListener(kind, again, { capture: true });
      paused();
    }
    for (const kind of TYPING) where.addEventListener(kind, again, { capture: true });
  });
}
