export function beginInTurns<Asked>(
  begin: (asked: Asked, answer: unknown) => void
): (asked: Asked, answer: unknown) => void;
