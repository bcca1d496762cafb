export { pictureSize, type PictureSize } from './size.ts';
