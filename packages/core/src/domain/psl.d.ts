/** The second library names are checked against in the tests; its own types cannot be found through its exports. */
declare module 'psl' {
  const library: { get(name: string): string | null };
  export default library;
}
