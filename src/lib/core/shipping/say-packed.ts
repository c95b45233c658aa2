/**
 * What is told of goods that are in a carton already, at the bench and by the server alike.
 * @param what as it is called there: `Serial TN-004342 of TN150`, or the number alone
 * @param sscc of the carton; its last six digits are what people read on it
 */
export const sayPacked = (what: string, sscc: string): string =>
  `${what} is in carton …${sscc.slice(-6)} already. Take it out there first.`;
