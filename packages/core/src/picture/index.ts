export { pictureSize, type PictureSize } from './size.ts';
export { svgFault } from './svg.ts';
