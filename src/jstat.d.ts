/** What tests use of the statistics package, which brings no types. */
declare module 'jstat' {
  const jstat: {
    quantiles: (values: number[], parts: number[], alphap: number, betap: number) => number[];
  };
  export default jstat;
}
