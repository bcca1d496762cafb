/** The domain name system on the wire, for whoever asks and for whoever answers. */
export * from './ask.ts';
export * from './message.ts';
export { fromPacketData, toPacketData } from './recordBytes.ts';
export * from './update.ts';
