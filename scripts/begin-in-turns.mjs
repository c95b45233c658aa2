/** Requests that are begun in one turn of the event loop: each takes some of it before it first waits. */
const AT_ONCE = 10;

/**
 * Begins requests as they come, so many in a turn of the event loop and the rest in the next ones:
 * of hundreds that come at the same moment the first ones are heard of again before the last is begun.
 * @template Asked, Answer
 * @param {(asked: Asked, answer: Answer) => void} begin
 * @returns {(asked: Asked, answer: Answer) => void}
 */
export function beginInTurns(begin) {
  /** @type {[Asked, Answer][]} */
  const waiting = [];
  let room = AT_ONCE;

  function nextTurn() {
    room = AT_ONCE;
    for (const [asked, answer] of waiting.splice(0, AT_ONCE)) begun(asked, answer);
  }

  function begun(asked, answer) {
    if (room === AT_ONCE) setImmediate(nextTurn);
    room--;
    begin(asked, answer);
  }

  return (asked, answer) => {
    if (room > 0) begun(asked, answer);
    else waiting.push([asked, answer]);
  };
}
