/** Whether Earmark answers, as the last request showed. */
class Line {
  isLost = $state(false);
}

export const line = new Line();
