/** Where the command line says what it has to say. */
export interface Write {
  out(text: string): void;
  problem(text: string): void;
}
