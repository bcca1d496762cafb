/** The part of @bramus/specificity that is used; its own types are not reachable by its exports. */
declare module '@bramus/specificity' {
  export default class Specificity {
    /** @param selector a `Selector` node of css-tree; throws a TypeError for any other */
    static calculateForAST(selector: object): Specificity;
    toObject(): { a: number; b: number; c: number };
  }
}
