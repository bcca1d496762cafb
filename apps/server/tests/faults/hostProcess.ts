/** The host stand-in as a process of its own, so that it can be killed; its clock can be told to jump. */
import { startHost } from '../../../standins/src/host/host.ts';

const { HOST_FOLDER = '', HOST_TOKEN = '', HOST_CONTROL_PORT = '0', HOST_PUBLIC_PORT = '0' } = process.env;
let aheadMs = 0;
process.on('message', (message: { readonly aheadMs: number }) => {
  ({ aheadMs } = message);
});
const host = await startHost({
  folder: HOST_FOLDER,
  token: HOST_TOKEN,
  controlPort: Number(HOST_CONTROL_PORT),
  publicPort: Number(HOST_PUBLIC_PORT),
  nowMs: () => Date.now() + aheadMs,
});
process.send?.({ controlPort: host.controlPort, publicPort: host.publicPort });
process.on('disconnect', () => process.exit(0));
