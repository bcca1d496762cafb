export { readPictureSize, type PictureSize } from './size.ts';
export { checkSvg } from './svg.ts';
export { svgFault, type SvgFault } from './messages.ts';
