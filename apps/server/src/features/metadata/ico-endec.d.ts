declare module 'ico-endec' {
  const ico: {
    /** PNG pictures as one ICO, in their order. */
    encode(pictures: readonly ArrayBuffer[]): ArrayBuffer;
  };
  // CommonJS: Node.js gives its exports as the default one.
  export default ico;
}
