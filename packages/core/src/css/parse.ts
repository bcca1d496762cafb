/**
 * css-tree's parser, held to what stands in the text it is given. Its buffers are used again from one text to the next,
 * and of a block that is closed and was never opened it looks up what stands just behind the text, which is left over
 * from the text before: so what a sheet means hung on the one before it, and `a(b)}}:root{--a:(` behind many open
 * blocks was never parsed to its end. That place is emptied before each text (css-tree 3.2.1, TokenStream.setSource).
 */
import { parse, TokenStream, type CssNode, type ParseOptions } from 'css-tree';

interface Buffers {
  readonly offsetAndType: Uint32Array | null | undefined;
}

const { setSource } = TokenStream.prototype;
TokenStream.prototype.setSource = function (this: TokenStream & Buffers, source, tokenize) {
  const { offsetAndType } = this;
  if (offsetAndType && source !== undefined && source.length < offsetAndType.length) offsetAndType[source.length] = 0;
  setSource.call(this, source, tokenize);
};

/** The tree of a sheet, by css-tree's own options. */
export const parseCss = (text: string, options: ParseOptions): CssNode => parse(text, options);
