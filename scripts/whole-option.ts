/**
 * What an option of a command says, which must be a whole number; where it is none, the command says
 * so and ends with 2.
 * @param name without its dashes
 */
export function wholeOption(name: string, text: string, least: number, most = Infinity): number {
  const value = Number(text);
  if (Number.isInteger(value) && value >= least && value <= most) return value;
  const range = most === Infinity ? `of at least ${least}` : `from ${least} to ${most}`;
  console.error(`--${name} is "${text}"; it must be a whole number ${range}.`);
  process.exit(2);
}
